import { type AnyColumn, and, eq, inArray, sql } from 'drizzle-orm';
import { Client } from 'pg';
import { plural } from '@/core/wording';
import { type ClaimedBatch, recordBatchFailure, recordFailure } from '@/server/campaigns';
import { type Database, databaseUrl, type Transaction, tables } from '@/server/database';
import { log } from '@/server/log';

/** Class of the advisory locks that stand for living workers. */
const leaseClass = 0x0a7d;

/** A worker's sign of life: a number, and an advisory lock on it that falls when the process or its connection dies. */
export interface Lease {
  readonly worker: number;
  release(): Promise<void>;
}

export async function takeLease(db: Database, threads: number, onLost: () => void): Promise<Lease> {
  const [row] = await db.insert(tables.workers).values({ threads }).returning({ id: tables.workers.id });
  if (!row) throw new Error('the worker was not written');
  const client = new Client({ connectionString: databaseUrl() });
  client.on('error', onLost);
  await client.connect();
  await client.query('select pg_advisory_lock($1, $2)', [leaseClass, row.id]);
  return {
    worker: row.id,
    release: async () => {
      client.removeListener('error', onLost);
      await client.end();
      await db.delete(tables.workers).where(eq(tables.workers.id, row.id));
    },
  };
}

/** A run that took so many workers with it is not begun again. */
const mostAttempts = 5;

/** Takes back what workers that are gone have held, so that it is begun again. Safe to be called by several workers at once. */
export async function reclaim(db: Database): Promise<void> {
  const lost = await db.transaction(async (tx) => {
    const dead: number[] = [];
    for (const worker of await holders(tx)) {
      const { rows } = await tx.execute<{ free: boolean }>(sql`select pg_try_advisory_xact_lock(${leaseClass}, ${worker}) as free`);
      if (rows[0]?.free) dead.push(worker);
    }
    return dead.length === 0 ? { runs: [], batches: [] } : { runs: await takeBackRuns(tx, dead), batches: await takeBackBatches(tx, dead) };
  });
  if (lost.runs.length + lost.batches.length === 0) return;
  log.warn({ runs: lost.runs.length, batches: lost.batches.length }, 'took back what a worker that is gone has held');
  const reason = `${plural(mostAttempts, 'worker')} ended while this run was under way; it is not tried again`;
  for (const run of lost.runs) if (run.attempts >= mostAttempts) await recordFailure(db, run, reason);
  for (const batch of lost.batches) if (batch.attempts >= mostAttempts && batch.count === 1) await recordBatchFailure(db, batch, reason);
  await dropStopped(db);
}

/** Workers that hold anything. */
async function holders(tx: Transaction): Promise<number[]> {
  const { rows } = await tx.execute<{ worker: number }>(sql`
    select worker from ${tables.runs} where state = 'running' and worker is not null
    union select worker from ${tables.batches} where state = 'running' and worker is not null
  `);
  return rows.map((row) => row.worker);
}

/** 1 where the database itself has ended since something was begun: workers end with it, and no run is to blame. */
const hadNoDatabase = (begunAt: AnyColumn) => sql`case when ${begunAt} < pg_postmaster_start_time() then 1 else 0 end`;

async function takeBackRuns(tx: Transaction, dead: readonly number[]) {
  const { runs } = tables;
  return tx
    .update(runs)
    .set({ state: 'queued', worker: null, attempts: sql`${runs.attempts} - ${hadNoDatabase(runs.begunAt)}` })
    .where(and(eq(runs.state, 'running'), inArray(runs.worker, [...dead])))
    .returning({ campaignId: runs.campaignId, number: runs.number, attempts: runs.attempts });
}

async function takeBackBatches(tx: Transaction, dead: readonly number[]): Promise<ClaimedBatch[]> {
  const { batches } = tables;
  return tx
    .update(batches)
    .set({ state: 'queued', worker: null, attempts: sql`${batches.attempts} - ${hadNoDatabase(batches.begunAt)}` })
    .where(and(eq(batches.state, 'running'), inArray(batches.worker, [...dead])))
    .returning({ campaignId: batches.campaignId, first: batches.first, count: batches.count, attempts: batches.attempts });
}

/** What was put back of campaigns that are over is not begun again. */
async function dropStopped(db: Database): Promise<void> {
  const over = db
    .select({ id: tables.campaigns.id })
    .from(tables.campaigns)
    .where(inArray(tables.campaigns.state, ['stopped', 'finished']));
  for (const table of [tables.runs, tables.batches]) await db.delete(table).where(and(eq(table.state, 'queued'), inArray(table.campaignId, over)));
}
