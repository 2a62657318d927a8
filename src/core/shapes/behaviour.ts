import type { RoutineText } from '@/core/language';
import { chartShape, type RawChart } from './chart';
import type { RawPort } from './port';
import { byKind, listOf, object, oneOf, required, type Shape } from './shape';
import { atLeastOne, duration, formula, longText, mapping, type Named, name, named, numeric, type Scalar, scalar, text, truth } from './values';

/** States get new values when a condition becomes TRUE; with `from_start` at the start, too, where it holds then. */
export interface RawEvent {
  readonly when: Scalar;
  readonly set: Named<Scalar>;
  readonly from_start?: boolean;
}

/** A continuous value as it was some time ago. */
export interface RawDelay {
  readonly of: Scalar;
  readonly by: Scalar;
  readonly start?: Scalar;
}

export interface RawEquations {
  readonly kind: 'equations';
  readonly states?: Named<RawPort & { readonly start: Scalar }>;
  readonly let?: Named<Scalar>;
  readonly derivatives?: Named<Scalar>;
  readonly outputs?: Named<Scalar>;
  /** Values as they were some time ago: `of` is what goes in, `by` for how long (s), `start` what comes out until then. */
  readonly delays?: Named<RawDelay>;
  /** Located between steps: when the condition becomes true, states take new values. */
  readonly events?: readonly RawEvent[];
}

interface Sampled {
  readonly period?: string | number;
  readonly offset?: string | number;
}

export interface RawRoutine extends Sampled {
  readonly kind: 'routine';
  readonly body: string;
  /** Statements that run once everything else of the hit has run; they break rings. */
  readonly later?: string;
  /** The body as a file of Structured Text has it, already read. */
  readonly text?: RoutineText;
}

/** One component in a loop, with its own parameter values and, if it is sampled, its own period. */
export interface RawUse extends Sampled {
  readonly use: string;
  readonly parameters?: Named<Scalar>;
  /** A BOOL that has to be TRUE for it to run; meanwhile its outputs are held. */
  readonly enabled?: string;
}

/** An element or a component inside a network; its inputs name sources of the network. */
export interface RawPart extends Omit<RawUse, 'enabled'> {
  readonly inputs?: Named<Scalar>;
  readonly settings?: Readonly<Record<string, unknown>>;
}

export interface RawNetwork extends Sampled {
  readonly kind: 'network';
  readonly parts: Named<RawPart>;
  readonly outputs: Named<string>;
}

export interface RawDecisionTable extends Sampled {
  readonly kind: 'decision table';
  readonly conditions: Named<Scalar>;
  readonly rules: readonly { readonly when: Named<Scalar>; readonly then: Named<Scalar> }[];
  readonly otherwise?: Named<Scalar>;
}

/** Plays a recorded trace: each output follows a column of the file. */
export interface RawRecording {
  readonly kind: 'recording';
  /** Path in the project, such as recordings/filling.csv. */
  readonly file: string;
  readonly outputs?: Named<string>;
}

/** A co-simulation unit (FMI): the period is the distance of its communication points. */
export interface RawUnit extends Sampled {
  readonly kind: 'unit';
  /** Path in the project, such as units/pump.fmu. */
  readonly file: string;
  /** Names of the unit's variables, where ports and parameters are called otherwise. */
  readonly variables?: Named<string>;
}

/** What a component does. */
export type RawBehaviour = RawEquations | RawChart | RawRoutine | RawNetwork | RawDecisionTable | RawRecording | RawUnit;

type ContinuousState = Pick<RawPort, 'unit' | 'min' | 'max' | 'about'> & { readonly start: Scalar; readonly type?: 'LREAL' };

const sampled = { period: duration, offset: duration };
const use = { use: required(name), parameters: named(scalar), ...sampled };

export const useShape = object<RawUse>({ ...use, enabled: text });

export const behaviourShape: Shape<RawBehaviour> = byKind<RawBehaviour>({
  equations: object<RawEquations>({
    kind: required(oneOf('equations')),
    states: named(object<ContinuousState>({ start: required(formula), type: oneOf('LREAL'), unit: text, min: numeric, max: numeric, about: text })),
    let: named(formula),
    derivatives: named(formula),
    outputs: named(formula),
    delays: named(object<RawDelay>({ of: required(formula), by: required(formula), start: formula })),
    events: listOf(object<RawEvent>({ when: required(formula), set: required(named(formula, atLeastOne)), from_start: truth })),
  }),
  chart: chartShape,
  routine: object<Omit<RawRoutine, 'text'>>({ kind: required(oneOf('routine')), ...sampled, body: required(longText), later: longText }),
  network: object<RawNetwork>({
    kind: required(oneOf('network')),
    ...sampled,
    parts: required(named(object<RawPart>({ ...use, inputs: named(scalar), settings: mapping }), atLeastOne)),
    outputs: required(named(text, atLeastOne)),
  }),
  'decision table': object<RawDecisionTable>({
    kind: required(oneOf('decision table')),
    ...sampled,
    conditions: required(named(formula, (schema) => schema.min(1).max(12))),
    rules: required(
      listOf(object({ when: required(named(scalar)), then: required(named(formula, atLeastOne)) }), (schema) => schema.min(1).max(500)),
    ),
    otherwise: named(formula, atLeastOne),
  }),
  unit: object<RawUnit>({ kind: required(oneOf('unit')), ...sampled, file: required(text), variables: named(text) }),
  recording: object<RawRecording>({ kind: required(oneOf('recording')), file: required(text), outputs: named(text) }),
});
