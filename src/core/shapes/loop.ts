import { fixedMethods, type SolverMethod, variableMethods } from '@/core/plan';
import { type RawUse, useShape } from './behaviour';
import { either, listOf, object, oneOf, required, type Shape } from './shape';
import { atLeastOne, byText, duration, type Named, name, named, numeric, positive, type Scalar, scalar, text } from './values';

/** Other components for some of the places. */
interface RawVariant {
  readonly about?: string;
  readonly components: Named<RawUse>;
}

/** Where the plant has been found to be like the thing itself. */
interface RawTrusted {
  readonly signal: string;
  readonly from: number;
  readonly until: number;
  readonly because: string;
}

interface RawLoopInput {
  readonly to: string | readonly string[];
  readonly start?: Scalar;
  readonly about?: string;
}

interface RawTolerance {
  readonly relative?: number;
  readonly absolute?: number;
}

export interface RawSolver {
  readonly method: SolverMethod;
  readonly step?: string | number;
  readonly relative_tolerance?: number;
  readonly absolute_tolerance?: number;
  /** Of single states, by their full name. */
  readonly tolerances?: Named<RawTolerance>;
  readonly record_every?: string | number;
}

export type RawOwnSolver = Partial<Omit<RawSolver, 'tolerances'>>;

/** loops/*.yaml */
export interface RawLoop {
  readonly loop: string;
  readonly about?: string;
  readonly components: Named<RawUse>;
  readonly wires?: readonly { readonly from: string; readonly to: string | readonly string[] }[];
  readonly inputs?: Named<RawLoopInput>;
  readonly unused?: readonly string[];
  /** Values over those of the components, by the names of the sets. */
  readonly parameter_sets?: readonly string[];
  readonly trusted?: readonly RawTrusted[];
  readonly variants?: Named<RawVariant>;
  readonly solver: RawSolver;
  readonly stop: string | number;
}

const uses = named(useShape, atLeastOne);
const ends: Shape<string | readonly string[]> = either([text, listOf(text)]);
const someEnds: Shape<string | readonly string[]> = either([text, listOf(text, (schema) => schema.min(1))]);

const tolerance = object<RawTolerance>({ relative: positive(0.1), absolute: positive() }, (schema) => schema.or('relative', 'absolute'));

const solver = object<RawSolver>({
  method: required(oneOf(...fixedMethods, ...variableMethods)),
  step: duration,
  relative_tolerance: positive(0.1),
  absolute_tolerance: positive(),
  tolerances: byText(tolerance),
  record_every: duration,
});

/** What a case has otherwise than its loop. */
export const ownSolverShape = object<RawOwnSolver>(
  {
    method: oneOf(...fixedMethods, ...variableMethods),
    step: duration,
    relative_tolerance: positive(0.1),
    absolute_tolerance: positive(),
    record_every: duration,
  },
  atLeastOne,
);

export const loopShape = object<RawLoop>({
  loop: required(name),
  about: text,
  components: required(uses),
  variants: named(object<RawVariant>({ about: text, components: required(uses) })),
  wires: listOf(object<{ readonly from: string; readonly to: string | readonly string[] }>({ from: required(text), to: required(ends) })),
  inputs: named(object<RawLoopInput>({ to: required(someEnds), start: scalar, about: text })),
  unused: listOf(text),
  parameter_sets: listOf(text),
  trusted: listOf(object<RawTrusted>({ signal: required(text), from: required(numeric), until: required(numeric), because: required(text) })),
  solver: required(solver),
  stop: required(duration),
});
