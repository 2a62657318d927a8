import { sql } from 'drizzle-orm';
import PgBoss from 'pg-boss';
import { database, databaseUrl } from '@/server/database';
import { log } from '@/server/log';

/** Name of the queue of batches. */
export const batchQueue = 'batches';

/** A batch: some runs of one campaign, at most a few seconds of work. */
export interface Batch {
  readonly campaignId: number;
  readonly numbers: readonly number[];
}

/** Runs in a batch. */
export const batchSize = 8;

/** Number of the advisory lock under which the queue is made. */
const makingQueue = 7_101;

const kept = globalThis as { ovrandQueue?: Promise<PgBoss> };

async function start(): Promise<PgBoss> {
  const boss = new PgBoss({ connectionString: databaseUrl(), max: 3 });
  boss.on('error', (problem) => log.warn({ problem: problem.message }, 'queue'));
  // Server and worker start at once and would both make the queue's tables: the lock lets one after the other.
  await database().transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(${makingQueue})`);
    await boss.start();
    await boss.createQueue(batchQueue, { name: batchQueue, retryLimit: 0 });
  });
  return boss;
}

/** The process's connection to the queue, opened on first use. */
export function queue(): Promise<PgBoss> {
  kept.ovrandQueue ??= start().catch((problem: unknown) => {
    delete kept.ovrandQueue;
    throw problem;
  });
  return kept.ovrandQueue;
}
