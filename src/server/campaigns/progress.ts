import { desc, eq, sql } from 'drizzle-orm';
import type { LookedAt } from '@/core/campaign';
import type { CampaignProgress } from '@/core/evidence';
import { decode } from '@/core/exchange';
import { type Database, tables } from '@/server/database';

export async function campaignProgress(db: Database, campaignId: number): Promise<CampaignProgress | undefined> {
  const [campaign] = await db.select().from(tables.campaigns).where(eq(tables.campaigns.id, campaignId));
  if (!campaign) return undefined;
  if (campaign.document !== null) return documentProgress(db, campaign, campaign.document);
  const { runs } = tables;
  const kinds = await db
    .select({
      isBench: sql<boolean>`${runs.stage} = 'bench'`,
      done: sql<number>`count(*) filter (where ${runs.state} = 'done')`.mapWith(Number),
      failed: sql<number>`count(*) filter (where ${runs.verdict} in ('fail', 'error'))`.mapWith(Number),
      left: sql<number>`count(*) filter (where ${runs.state} <> 'done')`.mapWith(Number),
      meanMs: sql<number>`coalesce(1000 * avg(extract(epoch from ${runs.finishedAt} - ${runs.begunAt})), 0)`.mapWith(Number),
    })
    .from(runs)
    .where(eq(runs.campaignId, campaignId))
    .groupBy(sql`1`);
  const running = await db
    .select({ name: runs.caseName })
    .from(runs)
    .where(sql`${runs.campaignId} = ${campaignId} and ${runs.state} = 'running'`)
    .limit(8);
  const elapsedMs = (campaign.finishedAt ?? new Date()).getTime() - campaign.createdAt.getTime();
  const leftMs = leftOf(kinds, elapsedMs);
  return {
    id: campaign.id,
    state: campaign.state,
    total: campaign.total,
    done: kinds.reduce((sum, { done }) => sum + done, 0),
    failed: kinds.reduce((sum, { failed }) => sum + failed, 0),
    elapsedMs,
    ...(leftMs === undefined ? {} : { leftMs }),
    awaitsBench: running.length === 0 && kinds.some(({ left }) => left > 0) && kinds.every(({ isBench, left }) => isBench || left === 0),
    running: running.map((one) => one.name),
  };
}

/** Runs of cases, those on a bench and all others. */
interface KindOfRuns {
  readonly isBench: boolean;
  readonly done: number;
  readonly left: number;
  readonly meanMs: number;
}

/** About how long runs take yet (ms): those on a bench come one after the other, while the others go on at the rate there was. Unknown where none of a kind was made. */
function leftOf(kinds: readonly KindOfRuns[], elapsedMs: number): number | undefined {
  const open = kinds.filter(({ left }) => left > 0);
  if (open.some(({ done }) => done === 0)) return undefined;
  return Math.max(0, ...open.map(({ isBench, done, left, meanMs }) => left * (isBench ? meanMs : elapsedMs / done)));
}

async function documentProgress(db: Database, campaign: typeof tables.campaigns.$inferSelect, document: string): Promise<CampaignProgress> {
  const { batches } = tables;
  const [figures] = await db
    .select({
      done: sql<number>`coalesce(sum(${batches.count}) filter (where ${batches.state} = 'done'), 0)`.mapWith(Number),
      failed: sql<number>`coalesce(sum(${batches.failed}), 0)`.mapWith(Number),
      busyMs: sql<number>`coalesce(sum(${batches.busyMs}), 0)`.mapWith(Number),
      inHand: sql<number>`count(*) filter (where ${batches.state} = 'running')`.mapWith(Number),
    })
    .from(batches)
    .where(eq(batches.campaignId, campaign.id));
  const total = endedAfter(campaign) ?? campaign.total;
  const elapsedMs = (campaign.finishedAt ?? new Date()).getTime() - (campaign.startedAt ?? campaign.createdAt).getTime();
  const { done = 0, failed = 0 } = figures ?? {};
  return {
    id: campaign.id,
    state: campaign.state,
    document,
    cores: await coresOf(db, campaign.id),
    total,
    ...figures,
    done,
    failed,
    elapsedMs,
    ...(done > 0 ? { leftMs: ((total - done) * elapsedMs) / done } : {}),
    running: [],
  };
}

/** A worker holds one batch more than it has threads, so that none waits for the next: its threads are at what it took first. */
async function coresOf(db: Database, campaignId: number): Promise<number> {
  const { rows } = await db.execute<{ cores: number }>(sql`
    select count(*)::int as cores
    from (
      select held.*, row_number() over (partition by worker order by begun_at) as place
      from (
        select worker, begun_at, campaign_id from batches where state = 'running'
        union all select worker, begun_at, 0 from runs where state = 'running'
      ) held
    ) queued
    join workers w on w.id = queued.worker
    where queued.campaign_id = ${campaignId} and queued.place <= w.threads
  `);
  return rows[0]?.cores ?? 0;
}

/** How many runs count of a campaign that its stop rule has ended. */
function endedAfter({ looked }: { readonly looked: string | null }): number | undefined {
  const found = looked === null ? undefined : (decode(looked) as LookedAt);
  return found?.ended ? found.runs : undefined;
}

/** The newest campaign of a project. */
export async function newestCampaign(db: Database, projectId: number): Promise<CampaignProgress | undefined> {
  const [row] = await db
    .select({ id: tables.campaigns.id })
    .from(tables.campaigns)
    .where(eq(tables.campaigns.projectId, projectId))
    .orderBy(desc(tables.campaigns.id))
    .limit(1);
  return row ? campaignProgress(db, row.id) : undefined;
}
