import { and, eq, inArray } from 'drizzle-orm';
import { nameKey, orderRun } from '@/core';
import { type Batch, recordRun } from '@/server/campaigns';
import { type Database, tables } from '@/server/database';
import { log } from '@/server/log';
import type { RunPool } from '@/server/pool';
import { openRevision } from '@/server/projects';

/** Works a batch: claims those of its runs that are still queued, runs them over the pool, records each once. */
export async function workBatch(db: Database, pool: RunPool, worker: number, batch: Batch): Promise<void> {
  const claimed = await db
    .update(tables.runs)
    .set({ state: 'running', worker })
    .where(and(eq(tables.runs.campaignId, batch.campaignId), inArray(tables.runs.number, [...batch.numbers]), eq(tables.runs.state, 'queued')))
    .returning();
  if (claimed.length === 0) return;
  const [campaign] = await db
    .update(tables.campaigns)
    .set({ state: 'running', startedAt: new Date() })
    .where(and(eq(tables.campaigns.id, batch.campaignId), inArray(tables.campaigns.state, ['queued', 'running'])))
    .returning();
  const revisionId = campaign?.revisionId ?? (await revisionOf(db, batch.campaignId));
  const project = await openRevision(db, revisionId);
  await Promise.all(
    claimed.map(async (run) => {
      const test = project.cases.find((one) => nameKey(one.experiment.case) === nameKey(run.caseName));
      if (!test) throw new Error(`the case ${run.caseName} is not in revision ${revisionId}`);
      const started = performance.now();
      const result = await pool.run(orderRun(project, test, run.seed));
      const elapsedMs = performance.now() - started;
      await recordRun(db, batch.campaignId, run.number, project, result, elapsedMs);
      log.info({ campaign: batch.campaignId, run: run.number, case: run.caseName, verdict: result.verdict, elapsedMs: Math.round(elapsedMs) }, 'run');
    }),
  );
}

async function revisionOf(db: Database, campaignId: number): Promise<number> {
  const [row] = await db.select({ revisionId: tables.campaigns.revisionId }).from(tables.campaigns).where(eq(tables.campaigns.id, campaignId));
  if (!row) throw new Error(`there is no campaign ${campaignId}`);
  return row.revisionId;
}
