import type { RunOrder, RunResult } from '@/core/project';

/** A run for a thread, and where the thread says that it has begun. */
export interface OrderWithStart {
  readonly order: RunOrder;
  readonly begun: Int32Array;
}

/** A run's result, and the time it took in its thread. */
export interface Ran {
  readonly result: RunResult;
  readonly elapsedMs: number;
}
