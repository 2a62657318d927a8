/** How far a campaign is. */
export interface CampaignProgress {
  readonly id: number;
  readonly state: 'queued' | 'running' | 'paused' | 'finished' | 'stopped';
  /** The campaign document whose runs they are. */
  readonly document?: string;
  readonly total: number;
  readonly done: number;
  readonly failed: number;
  readonly elapsedMs: number;
  /** About how long it will take yet (ms); nothing where no run of a kind that is left has been made. */
  readonly leftMs?: number;
  /** All that is left waits for a bench that others have. */
  readonly awaitsBench?: boolean;
  /** Time the runs took in their threads, one after the other (ms); known of campaign documents. */
  readonly busyMs?: number;
  /** Batches that workers have in hand; known of campaign documents. */
  readonly inHand?: number;
  /** Cores that make its runs at this moment, over all workers; known of campaign documents. */
  readonly cores?: number;
  /** Names of cases being run at this moment. */
  readonly running: readonly string[];
}
