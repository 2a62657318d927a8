import type { Expression } from '@/core/language';
import type { MeasureScope, StepMeasure, Timing, WholeMeasure } from '../types';

/** A sentence as it was read, before names are bound. */
export type Sentence =
  | { readonly k: 'always'; readonly holds: Expression }
  | { readonly k: 'never'; readonly holds: Expression }
  | { readonly k: 'while'; readonly during: Expression; readonly seconds?: number; readonly holds: Expression }
  | {
      readonly k: 'when';
      readonly event: SentenceTrigger;
      readonly during?: Expression;
      readonly holds: Expression;
      readonly timing: SentenceTiming;
    }
  | { readonly k: 'sequence'; readonly events: readonly SentenceEvent[]; readonly seconds?: number }
  | { readonly k: 'measure'; readonly measure: SentenceMeasure; readonly limit: LimitText; readonly scope: MeasureScope<Expression> };

export type SentenceTiming = Timing<Expression>;

/** `lasts`: the condition of `if S for D`; `start`: the first instant of a run. */
export type SentenceTrigger = SentenceEvent | { readonly k: 'lasts'; readonly of: Expression; readonly seconds: number } | { readonly k: 'start' };

export type SentenceEvent =
  | { readonly k: 'rises' | 'falls' | 'changes'; readonly of: Expression }
  | { readonly k: 'becomes'; readonly of: Expression; readonly value: Expression }
  | { readonly k: 'crosses'; readonly of: Expression; readonly level: Expression; readonly upward: boolean }
  | { readonly k: 'enters' | 'leaves'; readonly of: Expression };

/** A measure as it was read: what is measured, and the limit. */
export type SentenceMeasure =
  | { readonly k: 'step'; readonly kind: StepMeasure; readonly of: Expression; readonly to: Expression; readonly band?: Expression }
  | { readonly k: 'whole'; readonly kind: WholeMeasure; readonly of: Expression }
  | { readonly k: 'duration' | 'longest'; readonly of: Expression }
  | { readonly k: 'count'; readonly of: SentenceEvent; readonly seconds?: number }
  | { readonly k: 'time' | 'distance'; readonly from: SentenceEvent; readonly to: SentenceEvent };

export interface LimitText {
  readonly operator: '<' | '<=' | '>' | '>=';
  readonly value: Expression;
}
