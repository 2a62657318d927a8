import type { Criterion, Judgement } from '../criteria';
import type { Trace } from '../trace';

/** A criterion judged on a trace, with the signals it speaks of. */
export interface Shown extends Judgement {
  readonly trace: Trace;
  readonly criterion: Criterion;
}
