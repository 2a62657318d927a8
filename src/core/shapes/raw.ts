/** Documents as their shapes (shapes.ts) let them through: keys are known, meaning is not yet checked. */

import type { RoutineText } from '@/core/language';
import type { SolverMethod, ValueType } from '@/core/plan';
import type { controlForms, displayForms } from './shapes';

export type Scalar = number | boolean | string;

export interface RawPort {
  readonly type?: ValueType;
  readonly unit?: string;
  readonly min?: number;
  readonly max?: number;
  readonly about?: string;
  readonly start?: Scalar;
  /** Of an enumeration: names of its values 0, 1, … */
  readonly names?: readonly string[];
  readonly value?: Scalar;
  readonly tuning?: Tuning;
}

/** A parameter may be set at build only, or changed while the thing runs, or is offered to other tools as well. */
export type Tuning = 'fixed' | 'live' | 'exported';

export type Named<T> = Readonly<Record<string, T>>;

/** One state, or several in regions side by side. */
export type RawTargets = string | readonly string[];

export interface RawTransition {
  readonly to?: RawTargets;
  /** Messages it waits for; `door`, `door.*` and `*` take all that begin so. */
  readonly on?: string | readonly string[];
  readonly when?: Scalar;
  readonly after?: Scalar;
  readonly do?: string;
  /** A transition to a state inside the source does not leave the source. */
  readonly internal?: boolean;
}

/** A pseudo-state that stands for what was active in its state when it was left last. */
export interface RawHistory {
  readonly deep?: boolean;
  readonly default: RawTargets;
  readonly do?: string;
}

export interface RawState {
  readonly about?: string;
  readonly entry?: string;
  readonly stay?: string;
  readonly exit?: string;
  readonly final?: boolean;
  readonly go?: readonly RawTransition[];
  readonly initial?: RawTargets;
  /** Statements between the state's own entry and that of its initial state. */
  readonly initial_do?: string;
  readonly states?: Named<RawState>;
  readonly regions?: Named<RawRegion>;
  readonly history?: Named<RawHistory>;
}

export interface RawRegion {
  readonly initial: RawTargets;
  readonly initial_do?: string;
  readonly states: Named<RawState>;
  /** The region stands for its one state and is no state by itself, as in SCXML. */
  readonly wraps?: boolean;
}

export interface RawEquations {
  readonly kind: 'equations';
  readonly states?: Named<RawPort & { readonly start: Scalar }>;
  readonly let?: Named<Scalar>;
  readonly derivatives?: Named<Scalar>;
  readonly outputs?: Named<Scalar>;
  /** Located between steps: when the condition becomes true, states take new values. */
  readonly events?: readonly { readonly when: Scalar; readonly set: Named<Scalar> }[];
}

export interface RawChart {
  readonly kind: 'chart';
  readonly period?: string | number;
  readonly offset?: string | number;
  readonly variables?: Named<RawPort>;
  readonly regions: Named<RawRegion>;
  /** Statements that run before the first state is entered. */
  readonly prologue?: string;
  /** Guards may name a state without what is around it, as where names are unique. */
  readonly bareStates?: boolean;
}

/** A message of a face; with a type it carries a value. */
export interface RawMessage {
  readonly about?: string;
  readonly type?: ValueType;
  readonly unit?: string;
}

export interface RawRoutine {
  readonly kind: 'routine';
  readonly period?: string | number;
  readonly offset?: string | number;
  readonly body: string;
  /** Statements that run once everything else of the hit has run; they break rings. */
  readonly later?: string;
  /** The body as a file of Structured Text has it, already read. */
  readonly text?: RoutineText;
}

/** An element or a component inside a network; its inputs name sources of the network. */
export interface RawPart extends RawUse {
  readonly inputs?: Named<Scalar>;
  readonly settings?: Readonly<Record<string, unknown>>;
}

export interface RawNetwork {
  readonly kind: 'network';
  readonly period?: string | number;
  readonly offset?: string | number;
  readonly parts: Named<RawPart>;
  readonly outputs: Named<string>;
}

export interface RawDecisionTable {
  readonly kind: 'decision table';
  readonly period?: string | number;
  readonly offset?: string | number;
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

export interface RawComponent {
  readonly component: string;
  /** One that comes along, or the name of a file under pictures/. */
  readonly picture?: string;
  /** Limits of its outputs are real: end stops of an actuator, the range of a sensor. */
  readonly end_stops?: boolean;
  readonly about?: string;
  readonly inputs?: Named<RawPort & { readonly type: ValueType }>;
  readonly outputs?: Named<RawPort & { readonly type: ValueType }>;
  readonly parameters?: Named<RawPort & { readonly value: Scalar }>;
  /** What has to hold between parameters, with the author's words for it. */
  readonly constraints?: readonly { readonly holds: Scalar; readonly message?: string }[];
  readonly messages?: { readonly in?: Named<RawMessage>; readonly out?: Named<RawMessage> };
  readonly behaviour: RawEquations | RawChart | RawRoutine | RawNetwork | RawDecisionTable | RawRecording;
}

/** One component in a loop, with its own parameter values and, if it is sampled, its own period. */
export interface RawUse {
  readonly use: string;
  readonly parameters?: Named<Scalar>;
  readonly period?: string | number;
  readonly offset?: string | number;
  /** A BOOL that has to be TRUE for it to run; meanwhile its outputs are held. */
  readonly enabled?: string;
}

export interface RawLoop {
  readonly loop: string;
  readonly about?: string;
  readonly components: Named<RawUse>;
  readonly wires?: readonly { readonly from: string; readonly to: string | readonly string[] }[];
  readonly inputs?: Named<{ readonly to: string | readonly string[]; readonly start?: Scalar }>;
  readonly unused?: readonly string[];
  /** Values over those of the components, by the names of the sets. */
  readonly parameter_sets?: readonly string[];
  /** Where the plant has been found to be like the thing itself. */
  readonly trusted?: readonly { readonly signal: string; readonly from: number; readonly until: number; readonly because: string }[];
  /** Other components for some of the places. */
  readonly variants?: Named<{ readonly about?: string; readonly components: Named<RawUse> }>;
  readonly solver: {
    readonly method: SolverMethod;
    readonly step?: string | number;
    readonly relative_tolerance?: number;
    readonly absolute_tolerance?: number;
    /** Of single states, by their full name. */
    readonly tolerances?: Readonly<Record<string, { readonly relative?: number; readonly absolute?: number }>>;
    readonly record_every?: string | number;
  };
  readonly stop: string | number;
}

export interface RawCriterion {
  readonly criterion: string;
  readonly sentence: string;
  readonly accepted?: { readonly by: string; readonly on: string };
}

export interface RawRequirement {
  readonly requirement: string;
  readonly text: string;
  readonly source?: string;
  readonly level?: string | number;
  readonly verify_by?: string;
  readonly note?: string;
  readonly criteria?: readonly RawCriterion[];
  /** Readings that somebody has refused; they are not proposed again. */
  readonly rejected?: readonly string[];
  readonly relations?: readonly { readonly kind: 'parent' | 'derives' | 'refines' | 'conflicts'; readonly to: string }[];
}

export interface RawRequirements {
  readonly section: string;
  readonly requirements: readonly RawRequirement[];
}

export type RawBreakpoint =
  | { readonly hold: Scalar }
  | { readonly step: Scalar; readonly at: string | number }
  | { readonly ramp: Scalar; readonly from: string | number; readonly until: string | number };

export type RawStep =
  | { readonly set: Named<Scalar> }
  | { readonly send: string; readonly value?: number }
  | { readonly wait: { readonly until: Scalar; readonly give_up_after: string | number } }
  | { readonly hold: string | number };

export interface RawCase {
  readonly case: string;
  readonly about?: string;
  readonly loop: string;
  readonly variant?: string;
  readonly stop?: string | number;
  /** How long a run of it may take, by the clock on the wall. */
  readonly time_limit?: string | number;
  readonly seed?: number;
  /** Named sets of values, in order; the case's own values count over them. */
  readonly parameter_sets?: readonly string[];
  readonly parameters?: Named<Scalar>;
  readonly initial?: Named<Scalar>;
  readonly stimuli?: Named<readonly RawBreakpoint[]>;
  readonly script?: readonly RawStep[];
  readonly meant_for?: readonly string[];
}

export type ControlForm = (typeof controlForms)[number];
export type DisplayForm = (typeof displayForms)[number];

/** One control or display of a desk. */
export interface DeskItem {
  readonly signal: string;
  readonly as: ControlForm | DisplayForm;
  /** Of an x-y display: the signal along the other axis. */
  readonly with?: string;
  readonly min?: number;
  readonly max?: number;
  readonly decimals?: number;
  /** Of a control: its value at the start. */
  readonly start?: Scalar;
}

export type DeskStep = { readonly set: Named<Scalar> } | { readonly send: string; readonly value?: number } | { readonly hold: string | number };

export interface DeskButton {
  readonly button: string;
  readonly do: readonly DeskStep[];
}

/** desks/*.yaml */
export interface RawDesk {
  readonly desk: string;
  readonly about?: string;
  readonly loop: string;
  readonly variant?: string;
  /** A case whose parameters and start values the desk begins with. */
  readonly start_from?: string;
  readonly requirements?: readonly string[];
  readonly items: readonly DeskItem[];
  readonly buttons?: readonly DeskButton[];
}

/**
 * How a part of a scene's picture follows a signal: an attribute goes with its value along a straight line, from the span `from` (by default the limits of the signal)
 * to the span `to`; or the part is shown while it is TRUE; or its text is the value.
 */
export interface SceneMove {
  readonly part: string;
  readonly by: string;
  readonly set?: 'x' | 'y' | 'width' | 'height' | 'opacity' | 'turn' | 'along' | 'up';
  readonly from?: readonly [number, number];
  readonly to?: readonly [number, number];
  readonly show?: boolean;
  readonly text?: boolean;
}

/** scenes/*.yaml */
export interface RawScene {
  readonly scene: string;
  readonly about?: string;
  readonly loop: string;
  /** File name under scenes/. */
  readonly picture: string;
  readonly moves: readonly SceneMove[];
}

/** parameters/*.yaml: a tuning with a name. */
export interface RawParameterSet {
  readonly parameter_set: string;
  readonly about?: string;
  readonly values: Named<Scalar>;
}

/** definitions.yaml: what several components use. */
export interface RawDefinitions {
  readonly constants?: Named<{ readonly value: number | boolean; readonly unit?: string; readonly about?: string }>;
  readonly enumerations?: Named<readonly string[]>;
}

/** words.yaml: what prose calls things, and words that are not wanted in it. */
export interface RawWords {
  /** From a phrase to the name it stands for. */
  readonly synonyms?: Named<string>;
  /** From a word or phrase to what to write instead. */
  readonly vague?: Named<string>;
}

export interface RawProject {
  readonly project: string;
  readonly about?: string;
}
