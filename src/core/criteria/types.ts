import type { Node, SlotNumber } from '@/core/plan';

/** A condition over atoms; `atom` is an index into `Criterion.atoms`. */
export type Condition =
  | { readonly k: 'atom'; readonly atom: number }
  | { readonly k: 'not'; readonly a: Condition }
  | { readonly k: 'and' | 'or'; readonly a: Condition; readonly b: Condition };

/** The smallest statement that is true or false at an instant. */
export type Atom =
  /** A comparison of numbers: `distance` is positive inside the bound; at 0 it holds unless `strict`. */
  | { readonly k: 'bound'; readonly distance: Node; readonly strict: boolean; readonly unit: string; readonly scale: number }
  /** A BOOL signal, a state, an equality of whole numbers. */
  | { readonly k: 'truth'; readonly value: Node };

export type Event =
  | { readonly k: 'rises' | 'falls'; readonly of: Condition }
  | { readonly k: 'changes'; readonly slot: SlotNumber }
  /** A chart's state entered or left, also within one hit; `of` serves where a trace has no marks. */
  | { readonly k: 'enters' | 'leaves'; readonly mark: number; readonly of: Condition };

/** Figures of the answer of y to a step of r, and over a whole run. */
export type StepMeasure = 'overshoot' | 'settling' | 'rise time' | 'steady error';
export type WholeMeasure = 'peak' | 'rms' | 'mean';

/** What is measured. */
export type Measure =
  /** `gap` is y − r. `band` of settling: a share of the step, or a distance. */
  | {
      readonly k: 'step';
      readonly kind: StepMeasure;
      readonly value: Node;
      readonly reference: Node;
      readonly gap: Node;
      readonly band?: { readonly relative: boolean; readonly value: number };
    }
  | { readonly k: 'whole'; readonly kind: WholeMeasure; readonly value: Node }
  /** The time in all during which a condition holds; `longest`: that of each stretch by itself. */
  | { readonly k: 'duration' | 'longest'; readonly of: Condition }
  /** Over the whole run, or in any stretch of `seconds`. */
  | { readonly k: 'count'; readonly of: Event; readonly seconds?: number }
  | { readonly k: 'time'; readonly from: Event; readonly to: Event }
  /** From each event to the next later one of the other kind, a distance that is never less than the limit. */
  | { readonly k: 'distance'; readonly from: Event; readonly to: Event };

/** Where in a run a measure looks: while a condition holds, from so many seconds on. */
export interface MeasureScope<C = Condition> {
  readonly during?: C;
  readonly after?: number;
}

/** What a figure is held against; the figure and the limit are in `unit` ('%' of the step, seconds, or that of the signal). */
export interface MeasureLimit {
  readonly operator: '<' | '<=' | '>' | '>=';
  readonly value: number;
  readonly unit: string;
}

/** One sentence, typed and bound to slots. Plain data. */
export type Pattern =
  | { readonly k: 'always'; readonly holds: Condition }
  /** With a time it is owed once the condition has lasted so long, for as long as it goes on. */
  | { readonly k: 'while'; readonly during: Condition; readonly seconds?: number; readonly holds: Condition }
  | { readonly k: 'when'; readonly event: Trigger; readonly during?: Condition; readonly holds: Condition; readonly timing: Timing }
  | { readonly k: 'sequence'; readonly events: readonly Event[]; readonly seconds?: number }
  | { readonly k: 'measure'; readonly measure: Measure; readonly limit: MeasureLimit; readonly scope: MeasureScope };

/** What starts an obligation: an event, a condition that has lasted for so long, or the first instant of the run. */
export type Trigger = Event | { readonly k: 'lasts'; readonly of: Condition; readonly seconds: number } | { readonly k: 'start' };

/** When what must hold is owed, in seconds counted from the trigger; `C` is how a condition is given. */
export type Timing<C = Condition> =
  | { readonly k: 'at once' }
  | { readonly k: 'within' | 'for' | 'after'; readonly seconds: number }
  | { readonly k: 'within for'; readonly seconds: number; readonly lasting: number }
  | { readonly k: 'between'; readonly earliest: number; readonly seconds: number }
  | { readonly k: 'until'; readonly release: C; readonly seconds?: number };

export interface Criterion {
  readonly pattern: Pattern;
  readonly atoms: readonly Atom[];
  /** The exact meaning in signal temporal logic. */
  readonly stl: string;
}

export const outcomes = ['met', 'broken', 'open'] as const;
export type Outcome = (typeof outcomes)[number];

/** A distance to breaking. `measure` is the same made comparable between units. */
export interface Margin {
  readonly value: number;
  readonly unit: string;
  readonly measure: number;
  /** The true margin is at least this far from 0. */
  readonly atLeast?: boolean;
}

/** One concrete instance of a criterion in a run. Times in seconds. */
export interface Obligation {
  readonly from: number;
  /** End of the span in which it is owed; the trace may end earlier. */
  readonly until: number;
  readonly outcome: Outcome;
  /** When it was met or broken, or the trace ended. */
  readonly at: number;
  readonly margin?: Margin;
  /** Why it is open, where the end of the trace is not the reason. */
  readonly reason?: string;
}

/** Verdict after ETSI TTCN-3; `none` means no obligation arose. */
export const verdicts = ['pass', 'fail', 'inconclusive', 'none', 'error'] as const;
export type Verdict = (typeof verdicts)[number];

export interface Judgement {
  readonly verdict: Verdict;
  readonly obligations: readonly Obligation[];
  /** Index of the obligation nearest to breaking, or broken the most. */
  readonly worst?: number;
}
