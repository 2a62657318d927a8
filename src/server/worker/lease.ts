import { and, eq, inArray, isNotNull, sql } from 'drizzle-orm';
import { Client } from 'pg';
import { plural } from '@/core/wording';
import { recordFailure } from '@/server/campaigns';
import { type Database, databaseUrl, tables } from '@/server/database';
import { log } from '@/server/log';

/** Class of the advisory locks that stand for living workers. */
const leaseClass = 0x0a7d;

/** A worker's sign of life: a number, and an advisory lock on it that falls when the process or its connection dies. */
export interface Lease {
  readonly worker: number;
  release(): Promise<void>;
}

export async function takeLease(db: Database, onLost: () => void): Promise<Lease> {
  const [row] = await db.insert(tables.workers).values({}).returning({ id: tables.workers.id });
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

/** 1 where the database itself has ended since a run was begun: workers end with it, and no run is to blame. */
const hadNoDatabase = sql`case when ${tables.runs.begunAt} < pg_postmaster_start_time() then 1 else 0 end`;

/** Takes back the runs of workers that are gone, so that they are begun again. Safe to be called by several workers at once. */
export async function reclaim(db: Database): Promise<void> {
  const lost = await db.transaction(async (tx) => {
    const holders = await tx
      .selectDistinct({ worker: tables.runs.worker })
      .from(tables.runs)
      .where(and(eq(tables.runs.state, 'running'), isNotNull(tables.runs.worker)));
    const dead: number[] = [];
    for (const { worker } of holders) {
      const { rows } = await tx.execute<{ free: boolean }>(sql`select pg_try_advisory_xact_lock(${leaseClass}, ${worker}) as free`);
      if (worker !== null && rows[0]?.free) dead.push(worker);
    }
    if (dead.length === 0) return [];
    return tx
      .update(tables.runs)
      .set({ state: 'queued', worker: null, attempts: sql`${tables.runs.attempts} - ${hadNoDatabase}` })
      .where(and(eq(tables.runs.state, 'running'), inArray(tables.runs.worker, dead)))
      .returning({ campaignId: tables.runs.campaignId, number: tables.runs.number, attempts: tables.runs.attempts });
  });
  if (lost.length === 0) return;
  log.warn({ runs: lost.length }, 'took back the runs of a worker that is gone');
  for (const run of lost)
    if (run.attempts >= mostAttempts)
      await recordFailure(db, run, `${plural(mostAttempts, 'worker')} ended while this run was under way; it is not tried again`);
  await dropStopped(db);
}

/** Runs of stopped campaigns that were put back are not begun again. */
async function dropStopped(db: Database): Promise<void> {
  const stopped = db.select({ id: tables.campaigns.id }).from(tables.campaigns).where(eq(tables.campaigns.state, 'stopped'));
  await db.delete(tables.runs).where(and(eq(tables.runs.state, 'queued'), inArray(tables.runs.campaignId, stopped)));
}
