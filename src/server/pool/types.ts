import type { Touched } from '@/core/coverage';
import type { RunOrder, RunResult } from '@/core/project';
import type { SentTrace } from '@/core/trace';

/** Runs of one plan for one thread: the plan and what is watched, which are large, go once. */
export interface Batch extends Omit<RunOrder, 'experiment'> {
  readonly plan: RunOrder['experiment']['plan'];
  readonly experiments: readonly Omit<RunOrder['experiment'], 'plan'>[];
  /** Here the thread says which of them it has begun, counted from 1. */
  readonly begun: Int32Array;
}

/** A run's result, what it touched of the logic, and the time it took in its thread. */
export interface Ran {
  readonly result: RunResult;
  /** Nothing of a run that did not end by itself. */
  readonly touched?: Touched;
  readonly elapsedMs: number;
  /** Of a run on a bench, which nobody can make again. */
  readonly trace?: SentTrace;
}
