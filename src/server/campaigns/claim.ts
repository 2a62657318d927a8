import { sql } from 'drizzle-orm';
import type { Stage } from '@/core/shapes';
import type { Database } from '@/server/database';

/** A run that a worker holds. */
export interface ClaimedRun {
  readonly campaignId: number;
  readonly projectId: number;
  readonly revisionId: number;
  readonly number: number;
  readonly caseName: string;
  readonly stage: Stage;
  readonly seed: number;
  /** How often it was begun, this time counted. */
  readonly attempts: number;
}

/**
 * Claims the next run that waits, for a worker. The project with the fewest runs under way comes first, then the oldest campaign, so that a large campaign keeps nobody waiting.
 * Runs on a bench come last, when the machine has least to do, and one at a time: who waits for a bench holds nobody else up.
 * A run that was under way when a worker died may be what killed it: it is begun again only where nothing else would die with it.
 * @param alone whether the worker has nothing else under way
 */
export async function claimRun(db: Database, worker: number, alone: boolean): Promise<ClaimedRun | undefined> {
  const mostAttempts = alone ? 1_000 : 0;
  const mayBegin = sql`r.state = 'queued' and r.attempts <= ${mostAttempts}
        and (r.stage <> 'bench' or not exists (select 1 from runs b where b.stage = 'bench' and b.state = 'running'))`;
  const { rows } = await db.execute<{
    campaign_id: number;
    project_id: number;
    revision_id: number;
    number: number;
    case_name: string;
    stage: Stage;
    seed: string;
    attempts: number;
  }>(sql`
    with waiting as (
      select c.id, c.revision_id, c.project_id,
        (select count(*) from runs r where r.project_id = c.project_id and r.state = 'running') as under_way
      from campaigns c
      where c.state in ('queued', 'running')
        and exists (select 1 from runs r where r.campaign_id = c.id and ${mayBegin})
      order by under_way, c.id
      limit 1
    ), next as (
      select r.id, w.revision_id from waiting w join runs r on r.campaign_id = w.id
      where ${mayBegin}
      order by r.attempts, r.stage = 'bench', r.number
      limit 1
      for update of r skip locked
    ), begun as (
      update campaigns c set state = 'running', started_at = coalesce(c.started_at, now())
      from waiting w where c.id = w.id and c.state = 'queued' and exists (select 1 from next)
    )
    update runs r set state = 'running', worker = ${worker}, attempts = r.attempts + 1, begun_at = now()
    from next n where r.id = n.id and r.state = 'queued'
    returning r.campaign_id, r.project_id, n.revision_id, r.number, r.case_name, r.stage, r.seed, r.attempts
  `);
  const [row] = rows;
  return (
    row && {
      campaignId: row.campaign_id,
      projectId: row.project_id,
      revisionId: row.revision_id,
      number: row.number,
      caseName: row.case_name,
      stage: row.stage,
      seed: Number(row.seed),
      attempts: row.attempts,
    }
  );
}
