import { and, asc, eq, isNull } from 'drizzle-orm';
import type { LaidCampaign } from '@/core/campaign';
import { type CoverageReport, Tally, type TouchedByRuns } from '@/core/coverage';
import { decode, encode } from '@/core/exchange';
import { performRun, type RunOrder } from '@/core/project';
import { recycleTrace } from '@/core/simulate';
import { type Database, type Transaction, tables } from '@/server/database';
import { type OpenedCampaign, openCampaign } from './opened';

const { batches, campaigns } = tables;

/** Some runs of a campaign made again for what they touch alone, where no thread's count of just these runs is there. @returns nothing for runs with co-simulation units, which cannot be made here */
export function touchedAgain(laid: LaidCampaign, numbers: readonly number[]): TouchedByRuns[] | undefined {
  const tally = new Tally();
  for (const number of numbers) {
    const run = laid.runOf(number);
    if ('faults' in run) continue;
    if (run.order.experiment.plan.units) return undefined;
    const { watched: _, measured: __, ...rest } = run.order;
    const { trace, touched } = performRun({ ...rest, watched: [] } satisfies RunOrder, { update: () => undefined, hex: () => '' }, true);
    recycleTrace(trace);
    if (touched) tally.add(number, run.order.experiment.plan, touched);
  }
  return tally.kept;
}

/** What the runs of a campaign touched of the logic. */
export interface CampaignCoverage {
  /** Runs that are counted. */
  readonly runs: number;
  readonly report: CoverageReport;
}

/** @returns nothing where there is no such campaign of a document in the project, or where it was run before this was counted */
export async function readCampaignCoverage(db: Database, projectId: number, id: number): Promise<CampaignCoverage | undefined> {
  const [row] = await db.select({ projectId: campaigns.projectId, document: campaigns.document }).from(campaigns).where(eq(campaigns.id, id));
  if (row?.projectId !== projectId || row.document === null) return undefined;
  const opened = await openCampaign(db, id);
  const [uncounted] = await db
    .select({ first: batches.first })
    .from(batches)
    .where(and(eq(batches.campaignId, id), eq(batches.state, 'done'), isNull(batches.touched)))
    .limit(1);
  if (uncounted) return undefined;
  const rows = await db
    .select({ count: batches.count })
    .from(batches)
    .where(and(eq(batches.campaignId, id), eq(batches.state, 'done')));
  return { runs: rows.reduce((sum, one) => sum + one.count, 0), report: (await tallyOf(db, opened)).report() };
}

/** What the runs of a campaign touched; put together once, when it is over, and kept. */
export async function settleTouched(db: Database, opened: OpenedCampaign): Promise<void> {
  const { kept } = await tallyOf(db, opened);
  await db
    .update(campaigns)
    .set({ touched: encode(kept) })
    .where(eq(campaigns.id, opened.row.id));
}

async function tallyOf(db: Database | Transaction, { row, laid }: OpenedCampaign): Promise<Tally> {
  const parts =
    row.touched === null
      ? await db
          .select({ touched: batches.touched })
          .from(batches)
          .where(and(eq(batches.campaignId, row.id), eq(batches.state, 'done')))
          .orderBy(asc(batches.first))
      : [row];
  const tally = new Tally();
  for (const { touched } of parts) {
    for (const one of touched === null ? [] : (decode(touched) as TouchedByRuns[])) {
      const run = laid.runOf(one.run);
      if (!('faults' in run)) tally.add(one.run, run.order.experiment.plan, one.touched);
    }
  }
  return tally;
}
