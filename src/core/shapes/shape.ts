import Joi from 'joi';
import { Recent } from '@/core/memory';

/** A shape of values: a schema of which the compiler knows the type it lets through. */
export interface Shape<out T> {
  readonly joi: Joi.Schema;
  /** Never there; it carries the type. */
  readonly lets?: T;
}

/** A key that has to be there. */
interface Required<out T> {
  readonly required: Shape<T>;
}

export function required<T>(shape: Shape<T>): Required<T> {
  return { required: shape };
}

/** For each key of a type its shape, marked where the type demands the key: one that is left out, too many or of another type is an error of the compiler. */
type Keys<T> = { readonly [K in keyof T]-?: object extends Pick<T, K> ? Shape<Exclude<T[K], undefined>> : Required<T[K]> };

/** @param refine rules between keys */
export function object<T>(keys: Keys<T>, refine: (schema: Joi.ObjectSchema) => Joi.Schema = (schema) => schema): Shape<T> {
  const entries = Object.entries<Shape<unknown> | Required<unknown>>(keys);
  return {
    joi: refine(Joi.object(Object.fromEntries(entries.map(([key, one]) => [key, 'required' in one ? one.required.joi.required() : one.joi])))),
  };
}

export function listOf<T>(items: Shape<T>, refine: (schema: Joi.ArraySchema) => Joi.Schema = (schema) => schema): Shape<readonly T[]> {
  return { joi: refine(Joi.array().items(items.joi)) };
}

export function tupleOf<A, B>(first: Shape<A>, second: Shape<B>): Shape<readonly [A, B]> {
  return { joi: Joi.array().ordered(first.joi.required(), second.joi.required()) };
}

export function pairOf<T>(items: Shape<T>): Shape<readonly [T, T]> {
  return tupleOf(items, items);
}

/** @param keys shape of the keys; any text unless it is given */
export function recordOf<T>(
  values: Shape<T>,
  keys: Shape<string>,
  refine: (schema: Joi.ObjectSchema) => Joi.Schema = (schema) => schema,
): Shape<Readonly<Record<string, T>>> {
  return { joi: refine(Joi.object().pattern(keys.joi, values.joi)) };
}

export function oneOf<const T extends string | number | boolean | null>(...values: readonly T[]): Shape<T> {
  return { joi: Joi.valid(...values) };
}

/** @param message what to say of a value that fits none of them; the library's words unless it is given */
export function either<T extends readonly unknown[]>(shapes: { readonly [I in keyof T]: Shape<T[I]> }, message?: string): Shape<T[number]> {
  const schema = Joi.alternatives(...shapes.map(({ joi }) => joi));
  return { joi: message === undefined ? schema : schema.messages({ 'alternatives.match': message, 'alternatives.types': message }) };
}

/** One of several objects that tell by the key `kind` which they are. The compiler asks for a shape of each kind. */
export function byKind<T extends { readonly kind: string }>(shapes: { readonly [K in T['kind']]: Shape<Extract<T, { kind: K }>> }): Shape<T> {
  const kinds = Object.entries<Shape<unknown>>(shapes);
  return {
    joi: Joi.alternatives().conditional('.kind', {
      switch: kinds.map(([is, { joi }]) => ({ is, then: joi })),
      otherwise: Joi.object({ kind: Joi.valid(...kinds.map(([kind]) => kind)).required() }).unknown(),
    }),
  };
}

/** One of several objects that tell by which of the keys they have, so that what is wrong with one is said of that one. @param message what to say of a value with none of the keys */
export function byKey<M extends object>(shapes: { readonly [K in keyof M]: Shape<M[K]> }, message: string): Shape<M[keyof M]> {
  const entries = Object.entries<Shape<unknown>>(shapes);
  const none = Joi.any()
    .custom((_, helpers) => helpers.error('none'))
    .messages({ none: message });
  return {
    joi: entries.reduceRight<Joi.Schema>(
      (otherwise, [key, { joi }]) => Joi.alternatives().conditional(Joi.object({ [key]: Joi.required() }).unknown(), { then: joi, otherwise }),
      none,
    ),
  };
}

/** A shape that is named elsewhere, so that it can hold itself. */
export function link<T>(id: string): Shape<T> {
  return { joi: Joi.link(`#${id}`) };
}

/**
 * The same shape, which knows the values it has found sound: of a document that is being typed all but one state or the face stay as they were, and the shape library is slow for their number.
 * Only sound values are known, so every message comes from the shape itself.
 */
export function remembered<T>(shape: Shape<T>): Shape<T> {
  const sound = new Recent<true>(mostRemembered);
  const isKnown = Joi.any().custom((value, helpers) => (sound.get(JSON.stringify(value)) ? value : helpers.error('any.invalid')));
  const note = (value: unknown): unknown => {
    sound.set(JSON.stringify(value), true);
    return value;
  };
  return { joi: Joi.alternatives().conditional(isKnown, { then: Joi.any(), otherwise: shape.joi.custom(note) }) };
}

/** Characters. */
const mostRemembered = 1_000_000;
