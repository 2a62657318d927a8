import type { BenchMoment, BenchOrder, CheckedChannel, LiveShadow, RunResult } from '@/core/project';
import type { HandAction } from '@/core/simulate';
import type { SentTrace } from '@/core/trace';
import type { LineMemory } from './line';

/** What the thread of a bench is given. */
export interface BenchWork {
  readonly order: BenchOrder;
  readonly line: LineMemory;
  /** Slots whose values are told while it is run by hand; a run that is made to its end tells none. */
  readonly watched?: readonly number[];
  /** Another plant that runs beside. */
  readonly shadow?: LiveShadow;
}

/** A run that was made, with its trace, which nobody can make again. */
interface BenchRan {
  readonly result: RunResult;
  readonly elapsedMs: number;
  readonly trace: SentTrace;
}

/** What is done by hand at a bench. */
export type BenchAct = { readonly k: 'act'; readonly actions: readonly HandAction[] } | { readonly k: 'begin anew' };

/** What the process of a bench tells: that the controller is ready and the run begins, how it stands, what came of it, or why nothing did. */
export type BenchAnswer =
  | { readonly k: 'begun' }
  | { readonly k: 'moment'; readonly moment: BenchMoment }
  | { readonly k: 'checked'; readonly channels: readonly CheckedChannel[] }
  | { readonly k: 'ran'; readonly ran: BenchRan }
  | { readonly k: 'ended'; readonly why: string };
