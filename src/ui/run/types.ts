import type { Obligation } from '@/core';

export interface ObligationData {
  readonly requirement: string;
  readonly criterion: string;
  readonly sentence: string;
  readonly ordinal: number;
  readonly obligation: Obligation;
}

/** A run as the page receives it. */
export interface RunData {
  readonly id: number;
  readonly slug: string;
  readonly caseName: string;
  readonly stage: string;
  readonly seed: number;
  readonly verdict: string;
  readonly revision: number;
  readonly isCurrent: boolean;
  readonly elapsedMs: number;
  readonly simulatedSeconds: number;
  readonly traceHash: string;
  readonly error?: { readonly at: number; readonly message: string };
  readonly discounted?: string;
  readonly gaveUp?: string;
  readonly obligations: readonly ObligationData[];
  readonly untriggered: readonly string[];
}
