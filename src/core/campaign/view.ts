import type { CampaignProgress } from '@/core/evidence';
import type { CriterionOverRuns } from './found';

/** What the runs of a campaign say of a criterion, with its sentence. */
export interface CriterionView extends CriterionOverRuns {
  /** Its place in the table of the runs. */
  readonly index: number;
  /** What is said of it, in one sentence. */
  readonly words: string;
  /** The criterion as it was judged. */
  readonly sentence: string;
  /** The criterion and the requirement text are still those that were judged, and the runs are those that would be made today. */
  readonly isCurrent: boolean;
}

/** A campaign document with what its runs found. */
export interface CampaignView {
  readonly document: string;
  readonly about: string;
  readonly revision: number;
  readonly progress: CampaignProgress;
  readonly priority: number;
  /** The same runs would be made today. */
  readonly isCurrent: boolean;
  readonly quantities: readonly { readonly name: string; readonly short: string; readonly unit: string }[];
  /** What ended it before its time, or what its claim waits for; empty where its rule says nothing. */
  readonly ending: string;
  /** Those that fail first, the least margin foremost; then those that pass; then those that are decided nowhere. */
  readonly criteria: readonly CriterionView[];
  /** Signals whose responses can be drawn. */
  readonly signals: readonly { readonly name: string; readonly unit: string }[];
}

/** A campaign document of a project, in the list of them. */
export interface CampaignLine {
  readonly name: string;
  readonly about: string;
  readonly file: string;
  readonly runs: number;
  /** Campaigns that were made of it, the newest first. */
  readonly made: readonly CampaignMade[];
}

export interface CampaignMade {
  readonly id: number;
  readonly revision: number;
  readonly state: CampaignProgress['state'];
  readonly done: number;
  readonly total: number;
  readonly failed: number;
  readonly isCurrent: boolean;
  /** How long a run took in its thread (ms). */
  readonly pace?: number;
  /** ISO 8601. */
  readonly createdAt: string;
}
