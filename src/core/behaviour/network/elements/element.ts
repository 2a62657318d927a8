import type { ValueType } from '@/core/plan';
import type { Named, RawComponent, RawEquations, RawPort, Scalar, TypedPort } from '@/core/shapes';

/** Values that shape an element and cannot change in a run: signs, orders, tables. */
export type Settings = Readonly<Record<string, unknown>>;

/** One kind of element of a network. Its equation is text of our own language, so that every emitter has it from the same plan. */
export interface Element {
  readonly about: string;
  /** Where its equation comes from. */
  readonly source: string;
  /** Its numeric inputs are of one unit; `kept` when its output is of that unit too. */
  readonly units?: 'kept' | 'compared';
  /**
   * The equation on its slip, for an element with a memory; of others the definition itself is shown. `s` is the operator of Laplace, ∫ the integral from the start of the run, `e` set-point `r` − measured value `y`.
   * The names of parameters stand for their values, which are given as text.
   */
  equation?(values: Readonly<Record<string, string>>, settings: Settings): string;
  /**
   * Where it may stand: conditions of its inputs and parameters that tests should see, in our own language. Positions of what decides by a statement are its outcomes, and are not told here.
   */
  positions?(settings: Settings): readonly Position[];
  /** The settings it takes, each with what it means. */
  readonly settings?: Readonly<Record<string, string>>;
  /** Kinds of inputs of which it takes as many as are wanted: `plus`, `plus_2` … */
  readonly kinds?: readonly string[];
  /** Settings to show it with, where it needs some. */
  readonly example?: Settings;
  /**
   * The element as a component: `sampled` decides between a routine and equations.
   * @param inputs names of the inputs that a part has, for an element with as many of a kind as are wanted
   * @returns a sentence when the settings do not make sense, or when it can only be one of the two
   */
  build(settings: Settings, sampled: boolean, inputs?: readonly string[]): RawComponent | string;
}

/** One position of an element. */
export interface Position {
  readonly words: string;
  readonly when: string;
}

export interface Face {
  readonly inputs?: Named<ValueType>;
  readonly outputs?: Named<ValueType>;
  readonly parameters?: Named<RawPort & { readonly value: Scalar }>;
}

const ports = (types: Named<ValueType>): Named<TypedPort> => Object.fromEntries(Object.entries(types).map(([name, type]) => [name, { type }]));

function component(face: Face, behaviour: RawComponent['behaviour']): RawComponent {
  const { inputs = {}, outputs = { out: 'LREAL' }, parameters = {} } = face;
  return { component: 'element', inputs: ports(inputs), outputs: ports(outputs), parameters, behaviour };
}

/** An element without memory: its output follows from its inputs at once. */
export function algebraic(face: Face, out: string, sampled: boolean): RawComponent {
  return sampled ? routine(face, `out := ${out};`) : equations(face, {}, { outputs: { out } });
}

/** A continuous element: states with their start and derivative, intermediate values, outputs. */
export function equations(
  face: Face,
  states: Named<{ readonly start: Scalar; readonly derivative: string }>,
  rest: {
    readonly let?: Named<string>;
    readonly outputs: Named<string>;
    readonly events?: RawEquations['events'];
    readonly delays?: RawEquations['delays'];
  },
): RawComponent {
  const entries = Object.entries(states);
  return component(face, {
    kind: 'equations',
    states: Object.fromEntries(entries.map(([name, { start }]) => [name, { start }])),
    derivatives: Object.fromEntries(entries.map(([name, { derivative }]) => [name, derivative])),
    ...(rest.let ? { let: rest.let } : {}),
    ...(rest.delays ? { delays: rest.delays } : {}),
    outputs: rest.outputs,
    ...(rest.events ? { events: rest.events } : {}),
  });
}

/** A sampled element. `task_period` is the time between two hits in seconds; `later` runs once everything else of the hit has run. */
export function routine(face: Face, body: string, later?: string): RawComponent {
  return component(face, { kind: 'routine', body, ...(later === undefined ? {} : { later }) });
}

/** A numeric parameter. */
export function parameter(value: number, limits: Pick<RawPort, 'min' | 'max' | 'about' | 'tuning'> = {}): RawPort & { value: number } {
  return { value, ...limits };
}

/** A list of finite numbers from a setting. */
export function numbers(value: unknown): readonly number[] | undefined {
  return Array.isArray(value) && value.length > 0 && value.every((one) => typeof one === 'number' && Number.isFinite(one))
    ? (value as number[])
    : undefined;
}

/** A number as text of our language, never an integer literal. */
export function real(value: number): string {
  const text = String(value);
  const full = /[.e]/.test(text) ? text.replace(/^(-?\d+)e/, '$1.0e') : `${text}.0`;
  return value < 0 ? `(${full})` : full;
}

/** Those of some names that are inputs of a kind, `plus`, `plus_2` …; one of each where there are none. */
export function inputsOfKinds(names: readonly string[], kinds: readonly string[]): readonly string[] {
  const own = names.filter((name) => kinds.includes(kindOfInput(name)));
  return own.length > 0 ? own : kinds;
}

export function kindOfInput(name: string): string {
  return name.toLowerCase().replace(/_\d+$/, '');
}

/** Names of as many inputs as wanted: a, b, c … */
export function letters(count: number): readonly string[] {
  return Array.from({ length: count }, (_, index) => String.fromCharCode(97 + index));
}
