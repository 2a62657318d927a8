import type { TraceComparison } from '@/core/compare';
import type { BenchTiming } from '@/core/evidence';
import type { RawChannelFault } from '@/core/shapes';

/** What a bench shows of the present cycle. */
export interface BenchMoment {
  readonly ns: number;
  /** What the controller has read and written, and what the model writes at the same inputs. */
  readonly read: readonly number[];
  readonly written: readonly number[];
  readonly answer: readonly number[];
  readonly parameters: readonly number[];
  /** Values of what is watched. */
  readonly values: readonly number[];
  /** Where another plant runs beside: what the process does, and what that one does. */
  readonly shadow?: { readonly process: readonly number[]; readonly model: readonly number[]; readonly problem: string };
  readonly state: number;
  readonly isConnected: boolean;
  /** What is wrong; '' for nothing. */
  readonly problem: string;
  readonly timing: BenchTiming;
}

/** How the wire of a channel was found. */
export interface CheckedChannel {
  readonly name: string;
  readonly direction: 'input' | 'output';
  readonly isSound: boolean;
  /** Until the controller had seen what was put out (ms). */
  readonly ms?: number;
  readonly words: string;
}

/** How a bench stands that is run by hand. */
export interface LiveStatus {
  readonly state: 'starting' | 'running' | 'ending' | 'ended';
  readonly why: string;
  /** Number of the moment that comes next. */
  readonly next: number;
  readonly moments: readonly BenchMoment[];
  readonly faults: readonly RawChannelFault[];
  readonly set: Readonly<Record<string, number>>;
  /** How the plant beside agrees with the process so far. */
  readonly agreement?: TraceComparison;
  /** Parameters that are not as designed. */
  readonly tuned: Readonly<Record<string, number>>;
}
