import type { Obligation, Verdict } from '@/core/criteria';

/** One obligation of a run with what it belongs to. */
export interface RunObligation {
  readonly requirement: string;
  readonly criterion: string;
  readonly sentence: string;
  readonly ordinal: number;
  readonly obligation: Obligation;
}

/** A finished run as a screen or report shows it. */
export interface RunDetail {
  readonly id: number;
  /** Where what makes it again is found. */
  readonly address: string;
  readonly slug: string;
  readonly caseName: string;
  readonly stage: string;
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
