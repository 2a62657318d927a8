import { count, desc, eq, sql } from 'drizzle-orm';
import type { LookedAt } from '@/core/campaign';
import type { CampaignProgress } from '@/core/evidence';
import { decode } from '@/core/exchange';
import { type Database, tables } from '@/server/database';

export async function campaignProgress(db: Database, campaignId: number): Promise<CampaignProgress | undefined> {
  const [campaign] = await db.select().from(tables.campaigns).where(eq(tables.campaigns.id, campaignId));
  if (!campaign) return undefined;
  if (campaign.document !== null) return documentProgress(db, campaign, campaign.document);
  const [figures] = await db
    .select({
      done: sql<number>`count(*) filter (where ${tables.runs.state} = 'done')`.mapWith(Number),
      failed: sql<number>`count(*) filter (where ${tables.runs.verdict} in ('fail', 'error'))`.mapWith(Number),
      all: count(),
    })
    .from(tables.runs)
    .where(eq(tables.runs.campaignId, campaignId));
  const running = await db
    .select({ name: tables.runs.caseName })
    .from(tables.runs)
    .where(sql`${tables.runs.campaignId} = ${campaignId} and ${tables.runs.state} = 'running'`)
    .limit(8);
  return {
    id: campaign.id,
    state: campaign.state,
    total: campaign.total,
    done: figures?.done ?? 0,
    failed: figures?.failed ?? 0,
    elapsedMs: (campaign.finishedAt ?? new Date()).getTime() - campaign.createdAt.getTime(),
    running: running.map((one) => one.name),
  };
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
  return {
    id: campaign.id,
    state: campaign.state,
    document,
    cores: await coresOf(db, campaign.id),
    total: endedAfter(campaign) ?? campaign.total,
    done: 0,
    failed: 0,
    ...figures,
    elapsedMs: (campaign.finishedAt ?? new Date()).getTime() - (campaign.startedAt ?? campaign.createdAt).getTime(),
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
