import type { RequirementResult } from '@/core';

/** The ledger as the page receives it. */
export interface LedgerRowData {
  readonly id: string;
  readonly section: string;
  readonly text: string;
  readonly source: string;
  readonly note: string;
  readonly result: RequirementResult;
  readonly outOfDate?: RequirementResult;
  readonly criteria: readonly { readonly name: string; readonly sentence: string; readonly stl: string; readonly accepted: boolean }[];
  readonly meantCases: readonly string[];
  readonly bearingCases: readonly { readonly name: string; readonly runId: number; readonly verdict: string; readonly obligations: number }[];
}

export interface LedgerData {
  readonly rows: readonly LedgerRowData[];
  readonly pass: number;
  readonly fail: number;
  readonly lacksEvidence: number;
  readonly reasons: readonly { readonly reason: string; readonly count: number }[];
  readonly casesToRun: readonly string[];
}
