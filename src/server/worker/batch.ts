import { and, eq, inArray } from 'drizzle-orm';
import { nameKey, orderRun, type RunOrder, type RunResult, resultFingerprint } from '@/core';
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
      const order = orderRun(project, test, run.seed);
      const { result, elapsedMs } = await pool.run(order).catch((problem: unknown) => ({ result: unfinished(order, problem), elapsedMs: 0 }));
      await recordRun(db, batch.campaignId, run.number, project, result, elapsedMs);
      log.info({ campaign: batch.campaignId, run: run.number, case: run.caseName, verdict: result.verdict, elapsedMs: Math.round(elapsedMs) }, 'run');
    }),
  );
}

/** A run that did not end by itself: its thread was stopped or died. It is recorded as an error, so that the campaign goes on. */
function unfinished({ experiment }: RunOrder, problem: unknown): RunResult {
  const timedOut = problem instanceof Error && (problem.name === 'AbortError' || problem.name === 'TimeoutError');
  log.error({ case: experiment.case, problem: String(problem) }, 'a run did not end by itself');
  return {
    case: experiment.case,
    stage: 'model',
    seed: experiment.seed,
    verdict: 'error',
    fingerprint: resultFingerprint(experiment),
    traceHash: '',
    simulatedSeconds: 0,
    error: { at: 0, message: timedOut ? 'the run took longer than it may and was ended' : 'the thread of the run ended unexpectedly' },
    implausible: [],
    clipped: [],
    results: [],
  };
}

async function revisionOf(db: Database, campaignId: number): Promise<number> {
  const [row] = await db.select({ revisionId: tables.campaigns.revisionId }).from(tables.campaigns).where(eq(tables.campaigns.id, campaignId));
  if (!row) throw new Error(`there is no campaign ${campaignId}`);
  return row.revisionId;
}
