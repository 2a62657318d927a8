import type { Database } from '@/server/database';
import type { RunPool } from '@/server/pool';

/** What a worker holds: a run of a case, or some runs of a campaign document. */
export interface Held {
  readonly campaignId: number;
  /** How often it was begun, this time counted. */
  readonly attempts: number;
  /** Makes it and records what came of it. @param ending ends it: put back where the worker stops, dropped where its campaign was stopped */
  perform(ending: AbortSignal): Promise<void>;
  /** Records that nothing came of it but a reason. */
  fail(reason: string): Promise<unknown>;
}

/** What a worker works with. */
export interface Hands {
  readonly db: Database;
  readonly pool: RunPool;
  readonly worker: number;
  readonly stopping: AbortSignal;
}
