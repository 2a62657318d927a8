import type { Margin, Verdict } from '@/core/criteria';
import type { Stage } from '@/core/shapes';
import type { RequirementResult } from './rollup';
import type { AtStage } from './stages';

/** What made results out of date. */
export interface ChangedSince {
  /** Documents of model or case that are no longer as they were when the runs were made, by their paths. */
  readonly documents: readonly string[];
  /** The criterion or the requirement text has changed. */
  readonly reading: boolean;
  /** The documents are the same, but this version of the product makes another plan of them. */
  readonly product: boolean;
}

/** One row of the ledger: a requirement, its state now, and what older runs had shown where nothing current does. */
export interface LedgerRow {
  readonly id: string;
  readonly section: string;
  readonly text: string;
  readonly source: string;
  readonly note: string;
  readonly result: RequirementResult;
  /** The result at each stage, where more than one is demanded. */
  readonly stages?: readonly AtStage[];
  /** Result of runs that no longer fit today's project; shown hatched, never counted. */
  readonly outOfDate?: { readonly before: RequirementResult; readonly since: ChangedSince };
  readonly criteria: readonly { readonly name: string; readonly sentence: string; readonly stl: string; readonly accepted: boolean }[];
  /** The newest of each campaign document that decides it; they stand beside the verdict and do not make it. */
  readonly claims: readonly CampaignClaim[];
  /** How hard searches have tried to break it, as it stands today. */
  readonly attempts: readonly BreakingAttempt[];
  /** Cases meant for it, and cases in whose newest run it was triggered. */
  readonly meantCases: readonly string[];
  readonly bearingCases: readonly {
    readonly name: string;
    readonly stage: Stage;
    readonly runId: number;
    readonly verdict: Verdict;
    readonly obligations: number;
  }[];
}

/** What searches that tried to break a criterion in vain came to together. */
export interface BreakingAttempt {
  readonly criterion: string;
  /** Runs in which it was triggered. */
  readonly tries: number;
  readonly margin?: Margin;
}

/** What a campaign that is over says of a requirement. */
export interface CampaignClaim {
  readonly campaign: number;
  readonly document: string;
  readonly criterion: string;
  /** In one sentence. */
  readonly words: string;
  readonly failed: number;
  readonly decided: number;
  /** The same runs would be made today, and judged by the same words. */
  readonly isCurrent: boolean;
}

export interface Ledger {
  readonly rows: readonly LedgerRow[];
  /** Where requirements have to be shown. */
  readonly stages: readonly Stage[];
  readonly pass: number;
  readonly fail: number;
  readonly lacksEvidence: number;
  /** Reasons for lack of evidence with their counts, most frequent first. */
  readonly reasons: readonly { readonly reason: string; readonly count: number }[];
  /** Cases whose newest run is missing, no longer fits today's project, or knows nothing of a criterion as it now stands. */
  readonly casesToRun: readonly string[];
  /** Current runs of code that part from the model. */
  readonly parted: readonly { readonly case: string; readonly runId: number; readonly words: string }[];
  /** Another one as soon as anything it rests on has changed. */
  readonly mark: string;
}
