import { eq } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { type LaidCampaign, type LookedAt, laidCampaign } from '@/core/campaign';
import { decode } from '@/core/exchange';
import { nameKey } from '@/core/language';
import type { CheckedCampaign, CheckedProject } from '@/core/project';
import { type Database, tables } from '@/server/database';
import { openRevision } from '@/server/projects';

/** A campaign document that is run, as it stood at the revision it was started on. */
export interface OpenedCampaign {
  readonly row: typeof tables.campaigns.$inferSelect;
  readonly project: CheckedProject;
  readonly campaign: CheckedCampaign;
  readonly laid: LaidCampaign;
  readonly looked?: LookedAt;
}

/** Campaigns never change once they were started, so what they are made of is kept. */
const kept = new LRUCache<number, Pick<OpenedCampaign, 'project' | 'campaign' | 'laid'>>({ max: 8 });

/** @throws Error where there is no such campaign of a document */
export async function openCampaign(db: Database, id: number): Promise<OpenedCampaign> {
  const [row] = await db.select().from(tables.campaigns).where(eq(tables.campaigns.id, id));
  if (!row || row.document === null) throw new Error(`there is no campaign ${id} of a document`);
  const known = kept.get(id) ?? (await open(db, row.revisionId, row.document));
  kept.set(id, known);
  return { row, ...known, ...(row.looked === null ? {} : { looked: decode(row.looked) as LookedAt }) };
}

/** The same, or nothing where there is none. */
export async function findDocument(db: Database, id: number): Promise<OpenedCampaign | undefined> {
  const [row] = await db.select({ document: tables.campaigns.document }).from(tables.campaigns).where(eq(tables.campaigns.id, id));
  return row && row.document !== null ? openCampaign(db, id) : undefined;
}

async function open(db: Database, revisionId: number, name: string): Promise<Pick<OpenedCampaign, 'project' | 'campaign' | 'laid'>> {
  const project = await openRevision(db, revisionId);
  const campaign = project.campaigns.find((one) => nameKey(one.document.raw.campaign) === nameKey(name));
  if (!campaign) throw new Error(`the campaign ${name} is not in this revision`);
  return { project, campaign, laid: laidCampaign(project, campaign) };
}
