import { and, asc, count, eq, gt, ne, or, sql } from 'drizzle-orm';
import { type LookedAt, lookOn, notLooked, type PackedRuns, RunTable } from '@/core/campaign';
import type { TouchedByRuns } from '@/core/coverage';
import { decode, encode } from '@/core/exchange';
import { type Database, type Transaction, tables } from '@/server/database';
import { announce } from './announce';
import { type OpenedCampaign, openCampaign } from './opened';
import { touchedAgain } from './touched';

const { batches, campaigns } = tables;

/** Some runs of a campaign document, in the order of their numbers, that a worker holds. */
export interface ClaimedBatch {
  readonly campaignId: number;
  /** Number of its first run, from 1. */
  readonly first: number;
  readonly count: number;
  readonly attempts: number;
}

/**
 * Claims the next runs that wait of any campaign document, for a worker: the highest priority first, then the project with the fewest batches under way, then the oldest campaign.
 * Runs that were under way when a worker died are begun again one by one, and only where nothing else would die with them.
 * @param most how many runs of a campaign make a batch of a good length
 */
export async function claimBatch(
  db: Database,
  worker: number,
  alone: boolean,
  most: (campaignId: number) => number,
): Promise<ClaimedBatch | undefined> {
  const mostAttempts = alone ? 1_000 : 0;
  return db.transaction(async (tx) => {
    const { rows } = await tx.execute<{ campaign_id: number; first: number; count: number; attempts: number }>(sql`
      with waiting as (
        select c.id,
          (select count(*) from batches b join campaigns o on o.id = b.campaign_id where o.project_id = c.project_id and b.state = 'running') as under_way
        from campaigns c
        where c.state in ('queued', 'running') and c.document is not null
          and exists (select 1 from batches b where b.campaign_id = c.id and b.state = 'queued' and b.attempts <= ${mostAttempts})
        order by c.priority desc, under_way, c.id
        limit 1
      )
      select b.campaign_id, b.first, b.count, b.attempts from waiting w join batches b on b.campaign_id = w.id
      where b.state = 'queued' and b.attempts <= ${mostAttempts}
      order by b.attempts, b.first
      limit 1
      for update of b skip locked
    `);
    const [next] = rows;
    if (!next) return undefined;
    const taken = next.attempts > 0 ? 1 : Math.min(next.count, Math.max(1, most(next.campaign_id)));
    const batch = { campaignId: next.campaign_id, first: next.first, count: taken, attempts: next.attempts + 1 };
    await tx.update(batches).set({ state: 'running', worker, count: taken, attempts: batch.attempts, begunAt: sql`now()` }).where(isBatch(batch));
    if (taken < next.count)
      await tx
        .insert(batches)
        .values({ campaignId: batch.campaignId, first: next.first + taken, count: next.count - taken, attempts: next.attempts });
    await tx
      .update(campaigns)
      .set({ state: 'running', startedAt: sql`coalesce(${campaigns.startedAt}, now())` })
      .where(and(eq(campaigns.id, batch.campaignId), eq(campaigns.state, 'queued')));
    return batch;
  });
}

type BatchKey = Pick<ClaimedBatch, 'campaignId' | 'first'>;

const isBatch = ({ campaignId, first }: BatchKey) => and(eq(batches.campaignId, campaignId), eq(batches.first, first));

/** What the runs of a batch found. */
export interface FoundBatch {
  readonly packed: PackedRuns;
  readonly touched: readonly TouchedByRuns[];
  /** Runs that fail or ended in an error. */
  readonly failed: number;
  /** Time they took in their threads (ms). */
  readonly busyMs: number;
}

/**
 * Records a batch once, and ends its campaign where it was the last, or where the stop rule says so. A batch of a campaign that was over meanwhile is dropped.
 * @returns whether the campaign is over with it
 */
export async function recordBatch(db: Database, batch: BatchKey, { packed, touched, failed, busyMs }: FoundBatch): Promise<boolean> {
  const opened = await openCampaign(db, batch.campaignId);
  const isOver = await db.transaction(async (tx) => {
    const [row] = await tx.select().from(campaigns).where(eq(campaigns.id, batch.campaignId)).for('update');
    if (row?.state === 'stopped' || row?.state === 'finished') {
      await dropOf(tx, batch);
      return false;
    }
    const written = await tx
      .update(batches)
      .set({
        state: 'done',
        worker: null,
        failed,
        busyMs,
        touched: encode(touched),
        ...stored(packed),
      })
      .where(and(isBatch(batch), ne(batches.state, 'done')))
      .returning({ first: batches.first });
    if (written.length === 0) return false;
    return (await endEarly(tx, opened, row?.looked ?? null)) || finishWhenDone(tx, batch.campaignId);
  });
  await announce(db, batch.campaignId);
  return isOver;
}

/** Looks at the runs that are there without a gap, and ends the campaign where its rule says so. What was made beyond that is taken out again. */
async function endEarly(tx: Transaction, opened: OpenedCampaign, saved: string | null): Promise<boolean> {
  const { campaign, laid } = opened;
  const { id } = opened.row;
  if (campaign.stop.k === 'all') return false;
  let looked = saved === null ? notLooked : (decode(saved) as LookedAt);
  while (!looked.ended) {
    const first = looked.runs + 1;
    const [next] = await tx
      .select()
      .from(batches)
      .where(and(isBatch({ campaignId: id, first }), eq(batches.state, 'done')));
    const table = next && tableOf(laid.columns, next);
    if (!table) break;
    looked = lookOn(campaign.stop, table, looked, first - 1);
    if (looked.ended) await keepUntil(tx, opened, first, table, looked.runs);
  }
  await tx
    .update(campaigns)
    .set({ looked: encode(looked), ...(looked.ended ? { state: 'finished' as const, finishedAt: new Date() } : {}) })
    .where(eq(campaigns.id, id));
  return looked.ended !== undefined;
}

/** Cuts the batch in which a campaign ended after its last run that counts, and takes out all others behind it. */
async function keepUntil(
  tx: Transaction,
  { row: { id: campaignId }, laid }: OpenedCampaign,
  first: number,
  table: RunTable,
  last: number,
): Promise<void> {
  const kept = last - first + 1;
  const { bytes, numbers, notes } = stored(table.pack(0, kept));
  const verdicts = Array.from({ length: kept }, (_, index) => table.verdict(index));
  const failed = verdicts.filter((one) => one === 'fail' || one === 'error').length;
  // What all its runs touched is known, not what the first ones did. One without a trace did not end by itself, and is not tried again here.
  const touched = touchedAgain(
    laid,
    verdicts.flatMap((_, index) => (table.traceHash(index) === '' ? [] : [first + index])),
  );
  await tx
    .update(batches)
    .set({ count: kept, failed, bytes, numbers, notes, touched: touched ? encode(touched) : null })
    .where(isBatch({ campaignId, first }));
  await tx.delete(batches).where(and(eq(batches.campaignId, campaignId), gt(batches.first, last)));
}

async function finishWhenDone(tx: Transaction, campaignId: number): Promise<boolean> {
  const [open] = await tx
    .select({ batches: count() })
    .from(batches)
    .where(and(eq(batches.campaignId, campaignId), ne(batches.state, 'done')));
  if (open?.batches !== 0) return false;
  await tx.update(campaigns).set({ state: 'finished', finishedAt: new Date() }).where(eq(campaigns.id, campaignId));
  return true;
}

type BatchRow = typeof batches.$inferSelect;

function stored({ bytes, numbers, notes }: PackedRuns): { readonly bytes: Buffer; readonly numbers: Buffer; readonly notes: string } {
  return { bytes: Buffer.from(bytes), numbers: Buffer.from(numbers), notes: encode(notes) };
}

function packedOf({ bytes, numbers, notes }: Pick<BatchRow, 'bytes' | 'numbers' | 'notes'>): PackedRuns | undefined {
  return bytes && numbers && notes !== null ? { bytes, numbers, notes: decode(notes) as PackedRuns['notes'] } : undefined;
}

/** A batch that is done as a table of its own. */
function tableOf(criteria: RunTable['criteria'], row: BatchRow): RunTable | undefined {
  const packed = packedOf(row);
  if (!packed) return undefined;
  const table = new RunTable(criteria, row.count);
  table.unpack(0, row.count, packed);
  return table;
}

/** Records runs of which nothing came but a reason. */
export async function recordBatchFailure(db: Database, batch: ClaimedBatch, reason: string): Promise<boolean> {
  const { laid } = await openCampaign(db, batch.campaignId);
  const table = new RunTable(laid.columns, batch.count);
  for (let index = 0; index < batch.count; index += 1)
    table.put(index, {
      verdict: 'error',
      seed: laid.changesOf(batch.first + index).seed ?? 0,
      traceHash: '',
      error: { at: 0, message: reason },
      implausible: [],
      results: [],
    });
  return recordBatch(db, batch, { packed: table.pack(0, batch.count), touched: [], failed: batch.count, busyMs: 0 });
}

/** Puts runs back that were begun and not finished by no fault of their own. */
export async function putBackBatch(db: Database, batch: BatchKey): Promise<void> {
  await db
    .update(batches)
    .set({ state: 'queued', worker: null, attempts: sql`${batches.attempts} - 1` })
    .where(and(isBatch(batch), eq(batches.state, 'running')));
}

/** Drops the runs of a batch of a campaign that was stopped. */
export async function dropBatch(db: Database, batch: BatchKey): Promise<void> {
  await dropOf(db, batch);
  await announce(db, batch.campaignId);
}

/** A batch is cut in two as it is taken: what was left of it may have been written just after the campaign was stopped, and goes with it. */
async function dropOf(db: Pick<Database, 'delete'>, { campaignId, first }: BatchKey): Promise<void> {
  await db
    .delete(batches)
    .where(
      and(
        eq(batches.campaignId, campaignId),
        or(
          and(eq(batches.first, first), ne(batches.state, 'done')),
          and(eq(batches.state, 'queued'), sql`${campaignId} in (select id from campaigns where state in ('stopped', 'finished'))`),
        ),
      ),
    );
}

/** What the runs of a campaign have found so far, in a table of all that count. */
export async function readTable(db: Database, campaignId: number): Promise<RunTable> {
  const { laid, looked } = await openCampaign(db, campaignId);
  const table = new RunTable(laid.columns, looked?.ended ? looked.runs : laid.total);
  const rows = await db
    .select()
    .from(batches)
    .where(and(eq(batches.campaignId, campaignId), eq(batches.state, 'done')))
    .orderBy(asc(batches.first));
  for (const row of rows) {
    const packed = packedOf(row);
    if (packed) table.unpack(row.first - 1, row.count, packed);
  }
  return table;
}
