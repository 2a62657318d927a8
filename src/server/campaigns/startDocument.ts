import { and, eq, inArray } from 'drizzle-orm';
import { groundOf, laidCampaign } from '@/core/campaign';
import { nameKey } from '@/core/language';
import { whyNotRun } from '@/core/project';
import { type Database, inParts, tables } from '@/server/database';
import { openRevision, type ProjectHead } from '@/server/projects';
import { announce } from './announce';

const { batches, campaigns } = tables;

/** Runs that wait together at first; workers take parts of them. */
const runsInBatch = 256;

/** Points whose values are looked at before a campaign is started; of more, the first, the last and others evenly between them. A run whose values do not fit is an error. */
const mostLookedAt = 500;

/**
 * Queues the runs of a campaign document.
 * @returns its id, or a sentence that says why it cannot start
 */
export async function startDocument(db: Database, head: ProjectHead, name: string, actor: string): Promise<number | string> {
  const project = await openRevision(db, head.revisionId);
  const why = whyNotRun(project);
  if (why !== undefined) return why;
  const campaign = project.campaigns.find((one) => nameKey(one.document.raw.campaign) === nameKey(name));
  if (!campaign) return `There is no campaign "${name}", or its document has faults.`;
  const document = campaign.document.raw.campaign;
  const laid = laidCampaign(project, campaign);
  if (laid.total === 0) return 'The campaign has no case to run yet.';
  const count = Math.min(laid.total, mostLookedAt);
  for (let index = 0; index < count; index += 1) {
    const number = count === 1 ? 1 : 1 + Math.round((index * (laid.total - 1)) / (count - 1));
    const found = laid.runOf(number);
    if ('faults' in found) return `Run ${number} cannot be made: ${found.faults[0]?.message} ${found.faults[0]?.fix}`;
  }
  const id = await db.transaction(async (tx) => {
    // One after the other: of two presses in quick succession the second must see the first.
    await tx.select().from(tables.projects).where(eq(tables.projects.id, head.id)).for('update');
    const [underWay] = await tx
      .select({ id: campaigns.id })
      .from(campaigns)
      .where(
        and(eq(campaigns.revisionId, head.revisionId), eq(campaigns.document, document), inArray(campaigns.state, ['queued', 'running', 'paused'])),
      );
    if (underWay) return undefined;
    const [row] = await tx
      .insert(campaigns)
      .values({ projectId: head.id, revisionId: head.revisionId, document, total: laid.total, ground: groundOf(project, campaign), createdBy: actor })
      .returning({ id: campaigns.id });
    if (!row) throw new Error('the campaign was not written');
    const waiting = Array.from({ length: Math.ceil(laid.total / runsInBatch) }, (_, index) => {
      const first = 1 + index * runsInBatch;
      return { campaignId: row.id, first, count: Math.min(runsInBatch, laid.total + 1 - first) };
    });
    for (const part of inParts(waiting)) await tx.insert(batches).values(part);
    return row.id;
  });
  if (id === undefined) return `${document} is being run already. Stop it to start anew.`;
  await announce(db, id);
  return id;
}

/** Holds a campaign: runs under way are finished, no others are begun until it goes on. */
export async function pauseCampaign(db: Database, id: number): Promise<void> {
  await db
    .update(campaigns)
    .set({ state: 'paused' })
    .where(and(eq(campaigns.id, id), inArray(campaigns.state, ['queued', 'running'])));
  await announce(db, id);
}

/** Lets a campaign that is held go on. */
export async function resumeCampaign(db: Database, id: number): Promise<void> {
  await db
    .update(campaigns)
    .set({ state: 'running' })
    .where(and(eq(campaigns.id, id), eq(campaigns.state, 'paused')));
  await announce(db, id);
}

/** Puts a campaign before others, or behind them. @param priority those of a higher one come first; 0 unless it was set */
export async function setPriority(db: Database, id: number, priority: number): Promise<void> {
  await db.update(campaigns).set({ priority }).where(eq(campaigns.id, id));
  await announce(db, id);
}
