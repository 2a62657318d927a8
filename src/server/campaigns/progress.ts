import { count, desc, eq, sql } from 'drizzle-orm';
import type { CampaignProgress } from '@/core/evidence';
import { type Database, tables } from '@/server/database';

export async function campaignProgress(db: Database, campaignId: number): Promise<CampaignProgress | undefined> {
  const [campaign] = await db.select().from(tables.campaigns).where(eq(tables.campaigns.id, campaignId));
  if (!campaign) return undefined;
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
