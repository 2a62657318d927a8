import { RunTable } from '@/core/campaign';
import { Tally } from '@/core/coverage';
import type { RunOrder } from '@/core/project';
import { allAtStage } from '@/server/builds';
import {
  type ClaimedBatch,
  claimBatch,
  dropBatch,
  type OpenedCampaign,
  openCampaign,
  putBackBatch,
  recordBatch,
  recordBatchFailure,
  settleCampaign,
} from '@/server/campaigns';
import { log } from '@/server/log';
import type { Hands, Held } from './held';

/** So long may the runs of a batch take (ms): short for one who waits or stops, long beside what it costs to record them. */
const batchMs = 1000;

/** Runs of the first batch of a campaign, of which nobody knows yet how long they take. */
const firstCount = 2;

/** How long a run of each campaign took here in the last batch (ms). */
const paces = new Map<number, number>();

/** Takes the next runs of a campaign document that wait. @param alone whether the worker holds nothing else */
export async function takeBatch(hands: Hands, alone: boolean): Promise<Held | undefined> {
  const most = (campaign: number): number => {
    const pace = paces.get(campaign);
    return pace === undefined ? firstCount : Math.floor(batchMs / pace);
  };
  const batch = await claimBatch(hands.db, hands.worker, alone, most);
  return (
    batch && {
      campaignId: batch.campaignId,
      attempts: batch.attempts,
      perform: (ending) => perform(hands, batch, ending),
      fail: (reason) => recordBatchFailure(hands.db, batch, reason),
    }
  );
}

async function perform({ db, pool, stopping }: Hands, batch: ClaimedBatch, ending: AbortSignal): Promise<void> {
  const { laid, project } = await openCampaign(db, batch.campaignId);
  const table = new RunTable(laid.columns, batch.count);
  const orders = ordersOf(laid, batch, table);
  const atStage = await allAtStage(
    project,
    orders.map((one) => one.order),
    laid.stage,
  ).catch((problem: unknown) => (problem instanceof Error ? problem.message : String(problem)));
  if (typeof atStage === 'string') {
    await recordBatchFailure(db, batch, atStage);
    return;
  }
  const ran = await pool.runInTurn(atStage, ending);
  if (!ran) return stopping.aborted ? putBackBatch(db, batch) : dropBatch(db, batch);
  const tally = new Tally();
  for (const [at, { result, touched }] of ran.entries()) {
    const { index, order } = orders[at] as (typeof orders)[number];
    table.put(index, result);
    if (touched) tally.add(batch.first + index, order.experiment.plan, touched);
  }
  const busyMs = ran.reduce((sum, one) => sum + one.elapsedMs, 0);
  paces.set(batch.campaignId, Math.max(0.1, busyMs / batch.count));
  const verdicts = Array.from({ length: batch.count }, (_, index) => table.verdict(index));
  const failed = verdicts.filter((one) => one === 'fail' || one === 'error').length;
  const isOver = await recordBatch(db, batch, { packed: table.pack(0, batch.count), touched: tally.kept, failed, busyMs });
  if (!isOver) return;
  await settleCampaign(db, batch.campaignId);
  log.info({ campaign: batch.campaignId }, 'campaign finished');
}

/** The runs of a batch with their places in its table; a run whose values do not fit is an error at once. */
function ordersOf(laid: OpenedCampaign['laid'], batch: ClaimedBatch, table: RunTable): { readonly index: number; readonly order: RunOrder }[] {
  return Array.from({ length: batch.count }, (_, index) => index).flatMap((index) => {
    const number = batch.first + index;
    const found = laid.runOf(number);
    if (!('faults' in found)) return [{ index, order: found.order }];
    const message = found.faults.map((fault) => fault.message).join(' ');
    const seed = laid.changesOf(number).seed ?? 0;
    table.put(index, { verdict: 'error', seed, traceHash: '', error: { at: 0, message }, implausible: [], results: [] });
    return [];
  });
}
