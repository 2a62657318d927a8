import type { Criterion, Judgement } from '@/core/criteria';
import type { Trace } from '@/core/trace';

/** A criterion judged on a trace, with the signals it speaks of. */
export interface Shown extends Judgement {
  readonly trace: Trace;
  readonly criterion: Criterion;
}
