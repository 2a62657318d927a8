import type { Obligation, Verdict } from '@/core/criteria';
import type { Stage } from '@/core/shapes';
import type { BenchRecord } from './benchRecord';

/** One obligation of a run with what it belongs to. */
export interface RunObligation {
  readonly requirement: string;
  readonly criterion: string;
  readonly sentence: string;
  readonly ordinal: number;
  readonly obligation: Obligation;
}

/** A signal in which code and model part. */
export interface Parting {
  readonly signal: string;
  /** First instant outside the tolerance (s), and the values there. */
  readonly at: number;
  readonly model: number;
  readonly code: number;
  readonly unit: string;
  readonly largest: number;
}

/** A run of code held against the same run of its model, or a controller on a bench against the model at the same inputs. */
export interface BackToBack {
  readonly words: string;
  /** Every bit of the traces is the same. */
  readonly isExact: boolean;
  /** In order of time; none where they agree. */
  readonly parted: readonly Parting[];
  /** What makes the model part from itself in the same way. */
  readonly cause?: string;
  /** What was tried and is not the cause, or not alone. */
  readonly tried: readonly string[];
}

/** A finished run as a screen or report shows it. */
export interface RunDetail {
  readonly id: number;
  /** Where what makes it again is found. */
  readonly address: string;
  readonly slug: string;
  readonly caseName: string;
  readonly stage: Stage;
  /** Of a run of code: how it compares with the same run of the model. */
  readonly backToBack?: BackToBack;
  /** Of a run on a bench: how it kept its time. */
  readonly bench?: BenchRecord;
  readonly seed: number;
  readonly verdict: Verdict;
  readonly revision: number;
  readonly isCurrent: boolean;
  /** How long it took when it was recorded; not kept of runs of a campaign. */
  readonly elapsedMs?: number;
  readonly simulatedSeconds: number;
  readonly traceHash: string;
  readonly error?: { readonly at: number; readonly message: string };
  readonly discounted?: string;
  readonly gaveUp?: string;
  readonly obligations: readonly RunObligation[];
  readonly untriggered: readonly string[];
}
