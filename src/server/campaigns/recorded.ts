import { promisify } from 'node:util';
import { gunzip, gzip } from 'node:zlib';
import { eq } from 'drizzle-orm';
import { decode, encode } from '@/core/exchange';
import type { RunResult } from '@/core/project';
import type { SentTrace } from '@/core/trace';
import { type Database, type Transaction, tables } from '@/server/database';

const [pack, unpack] = [promisify(gzip), promisify(gunzip)];

/** What was recorded in a run that nobody can make again. */
export interface Recorded {
  readonly result: RunResult;
  readonly trace: SentTrace;
}

/** Keeps what was recorded in a run. */
export async function keepRecorded(db: Database | Transaction, runId: number, recorded: Recorded): Promise<void> {
  await db.insert(tables.traces).values({ runId, bytes: await pack(encode(recorded)) });
}

/** @returns nothing where nothing was recorded */
export async function readRecorded(db: Database, runId: number): Promise<Recorded | undefined> {
  const [row] = await db.select().from(tables.traces).where(eq(tables.traces.runId, runId));
  return row && (decode((await unpack(row.bytes)).toString('utf8')) as Recorded);
}
