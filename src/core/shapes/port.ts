import type { Enumeration, ValueType } from '@/core/plan';
import { object, oneOf, required } from './shape';
import { duration, note, numeric, type Scalar, scalar, text, typeName } from './values';

/** A parameter may be set at build only, or changed while the thing runs, or is offered to other tools as well. */
export type Tuning = 'fixed' | 'live' | 'exported';

/** An input, output, parameter, state or variable. */
export interface RawPort {
  readonly type?: ValueType;
  readonly unit?: string;
  readonly min?: number;
  readonly max?: number;
  readonly about?: string;
  readonly start?: Scalar;
  /** Never written: what the name of an enumeration under `type` stands for once the documents are read together. */
  readonly enumeration?: Enumeration;
  readonly value?: Scalar;
  readonly tuning?: Tuning;
}

/** The keys of a port that may be written where it stands. */
type Written<K extends keyof RawPort = never> = Pick<RawPort, 'unit' | 'min' | 'max' | 'about' | K>;
type Typed = { readonly type: ValueType };

const tuning = oneOf<Tuning>('fixed', 'live', 'exported');
const quantity = { unit: text, min: numeric, max: numeric, about: note };
const typed = { type: required(typeName), ...quantity };

export const inputShape = object<Written & Typed>(typed);
export const outputShape = object<Written<'start'> & Typed>({ ...typed, start: scalar });
export const parameterShape = object<Written<'type' | 'tuning'> & { readonly value: Scalar }>({
  type: typeName,
  ...quantity,
  value: required(scalar),
  tuning,
});
export const variableShape = object<Written<'type' | 'start'>>({ type: typeName, ...quantity, start: scalar });

/** What a pragma in Structured Text may say: of a variable its unit, limits and explanation, and that an input is a parameter; of a function block its period and explanation. */
export interface TextNote extends Written<'tuning'> {
  /** Written as `{parameter}`. */
  readonly parameter?: null | true;
  readonly period?: string | number;
  readonly offset?: string | number;
}

export const textNoteShape = object<TextNote>({
  parameter: oneOf(null, true),
  tuning,
  unit: text,
  min: numeric,
  max: numeric,
  about: text,
  period: duration,
  offset: duration,
});
