import type { BenchOrder, RunResult } from '@/core/project';
import type { RunError } from '@/core/simulate';
import type { SentTrace } from '@/core/trace';
import type { BenchMoment } from './busHost';
import type { LineMemory } from './line';

/** What the thread of a run on a bench is given. */
export interface BenchWork {
  readonly order: BenchOrder;
  readonly line: LineMemory;
}

/** A run that was made, with its trace, which nobody can make again. */
export interface BenchRan {
  readonly result: RunResult;
  readonly elapsedMs: number;
  readonly trace: SentTrace;
}

/** What the process of a bench tells: that the controller is ready and the run begins, how it stands, what came of it, or why nothing did. */
export type BenchAnswer =
  | { readonly k: 'begun' }
  | { readonly k: 'moment'; readonly moment: BenchMoment }
  | { readonly k: 'ran'; readonly ran: BenchRan }
  | { readonly k: 'ended'; readonly why: string; readonly error?: RunError };
