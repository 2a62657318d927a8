/** How far a campaign is. */
export interface CampaignProgress {
  readonly id: number;
  readonly state: 'queued' | 'running' | 'finished' | 'stopped';
  readonly total: number;
  readonly done: number;
  readonly failed: number;
  readonly elapsedMs: number;
  /** Names of cases being run at this moment. */
  readonly running: readonly string[];
}
