import { and, eq, inArray, isNotNull, sql } from 'drizzle-orm';
import { Client } from 'pg';
import { batchQueue, enqueue, queue } from '@/server/campaigns';
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

/** Takes back the runs of workers that are gone and queues them again. Safe to be called by several workers at once. */
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
      .set({ state: 'queued', worker: null })
      .where(and(eq(tables.runs.state, 'running'), inArray(tables.runs.worker, dead)))
      .returning({ campaignId: tables.runs.campaignId, number: tables.runs.number });
  });
  for (const campaignId of new Set(lost.map((run) => run.campaignId))) {
    const numbers = lost.filter((run) => run.campaignId === campaignId).map((run) => run.number);
    log.warn({ campaignId, runs: numbers.length }, 'took back the runs of a worker that is gone');
    await enqueue(campaignId, numbers);
  }
}

/** Queues runs again that wait although no batch does: the database went away between writing a campaign and sending its batches. */
export async function adopt(db: Database): Promise<void> {
  if ((await (await queue()).getQueueSize(batchQueue)) > 0) return;
  const waiting = await db
    .select({ campaignId: tables.runs.campaignId, number: tables.runs.number })
    .from(tables.runs)
    .innerJoin(tables.campaigns, eq(tables.campaigns.id, tables.runs.campaignId))
    .where(and(eq(tables.runs.state, 'queued'), inArray(tables.campaigns.state, ['queued', 'running'])))
    .limit(1000);
  for (const campaignId of new Set(waiting.map((run) => run.campaignId))) {
    await enqueue(
      campaignId,
      waiting.filter((run) => run.campaignId === campaignId).map((run) => run.number),
    );
  }
}
