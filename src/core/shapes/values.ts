import Joi from 'joi';
import { isIdentifier } from '@/core/language';
import type { valueTypes } from '@/core/plan';
import { either, recordOf, type Shape } from './shape';

/** A value as it is written; formulas are, too, for `3` and `TRUE` are formulas. */
export type Scalar = number | boolean | string;

/** By names. */
export type Named<T> = Readonly<Record<string, T>>;

export const text: Shape<string> = { joi: Joi.string().max(100_000) };
export const longText: Shape<string> = { joi: Joi.string().max(1_000_000) };
export const anyText: Shape<string> = { joi: Joi.string() };
/** A text that may be left empty. */
export const note: Shape<string> = { joi: Joi.string().max(100_000).allow('') };
export const numeric: Shape<number> = { joi: Joi.number() };
export const truth: Shape<boolean> = { joi: Joi.boolean() };
/** A key that is there or is not. */
export const onlyTrue: Shape<boolean> = { joi: Joi.valid(true).messages({ 'any.only': 'can only be true; leave the step out otherwise' }) };

/** What a thing is called, in any script: one line, without characters that nobody can see. */
export const title = (longest: number): Shape<string> => ({
  joi: Joi.string()
    .max(longest)
    .pattern(/^[^\p{Cc}\p{Cs}\u2028\u2029\uFFFE\uFFFF]+$/u, 'title')
    .messages({
      'string.pattern.name': 'a name is one line of visible characters',
      'string.max': `a name has at most ${longest} characters`,
    }),
});

/** A name that formulas can use. */
export const name: Shape<string> = {
  joi: Joi.string()
    .custom((value: string, helpers) => (isIdentifier(value) ? value : helpers.error('name')))
    .messages({ name: '"{#value}" is not a name' }),
};

/** An elementary type, or the name of an enumeration, in whose place INT stands before anyone asks for the type (core/documents/enumerated.ts). */
export const typeName: Shape<(typeof valueTypes)[number]> = { joi: name.joi };
export const scalar: Shape<Scalar> = either([numeric, truth, anyText]);
export const formula: Shape<Scalar> = either([longText, numeric, truth]);
/** A number of seconds, or with its unit: 20 ms. */
export const duration: Shape<string | number> = either([anyText, numeric]);
/** A positive number up to a limit. */
export const positive = (most?: number): Shape<number> => ({ joi: most === undefined ? Joi.number().positive() : Joi.number().positive().max(most) });
export const whole = (least: number, most: number): Shape<number> => ({ joi: Joi.number().integer().min(least).max(most) });

/** Anything by any keys; what it means is looked at later. */
export const mapping: Shape<Readonly<Record<string, unknown>>> = { joi: Joi.object() };

type Refine = (schema: Joi.ObjectSchema) => Joi.Schema;
export const atLeastOne: Refine = (schema) => schema.min(1);

export const named = <T>(values: Shape<T>, refine?: Refine): Shape<Named<T>> => recordOf(values, name, refine);
/** By names of several parts, such as `chamber.level`, or by any words. */
export const byText = <T>(values: Shape<T>, refine?: Refine): Shape<Named<T>> => recordOf(values, text, refine);
