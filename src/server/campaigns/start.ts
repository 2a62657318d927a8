import { and, eq, inArray, ne } from 'drizzle-orm';
import { nameKey } from '@/core';
import { type Database, tables } from '@/server/database';
import { openRevision, type ProjectHead } from '@/server/projects';
import { announce } from './announce';
import { type Batch, batchQueue, batchSize, queue } from './queue';

/**
 * Queues a campaign: one run for each case named, or for all of them.
 * @returns its id, or a sentence that says why it cannot start
 */
export async function startCampaign(
  db: Database,
  project: ProjectHead,
  names: readonly string[] | undefined,
  actor: string,
): Promise<number | string> {
  const checked = await openRevision(db, project.revisionId);
  const wanted = names?.map(nameKey);
  const tests = checked.cases.filter((test) => !wanted || wanted.includes(nameKey(test.experiment.case)));
  const unknown = names?.find((name) => !tests.some((test) => nameKey(test.experiment.case) === nameKey(name)));
  if (unknown !== undefined) return `There is no case "${unknown}".`;
  if (tests.length === 0) return 'The project has no cases yet.';
  const campaignId = await db.transaction(async (tx) => {
    // One after the other: of two presses in quick succession the second must see the runs of the first.
    await tx.select().from(tables.projects).where(eq(tables.projects.id, project.id)).for('update');
    const underWay = await casesUnderWay(tx, project);
    if (tests.every((test) => underWay.has(test.experiment.case))) return undefined;
    const [campaign] = await tx
      .insert(tables.campaigns)
      .values({ projectId: project.id, revisionId: project.revisionId, total: tests.length, createdBy: actor })
      .returning();
    if (!campaign) throw new Error('the campaign was not written');
    await tx.insert(tables.runs).values(
      tests.map((test, index) => ({
        campaignId: campaign.id,
        projectId: project.id,
        number: index + 1,
        caseName: test.experiment.case,
        seed: test.experiment.seed,
      })),
    );
    return campaign.id;
  });
  if (campaignId === undefined) return 'These cases are being run already. Stop that campaign to start anew.';
  await enqueue(
    campaignId,
    tests.map((_, index) => index + 1),
  );
  await announce(db, campaignId);
  return campaignId;
}

/** Cases of the newest revision that are queued or running. */
async function casesUnderWay(db: Pick<Database, 'select'>, project: ProjectHead): Promise<ReadonlySet<string>> {
  const rows = await db
    .select({ name: tables.runs.caseName })
    .from(tables.runs)
    .innerJoin(tables.campaigns, eq(tables.campaigns.id, tables.runs.campaignId))
    .where(
      and(
        eq(tables.campaigns.revisionId, project.revisionId),
        inArray(tables.campaigns.state, ['queued', 'running']),
        inArray(tables.runs.state, ['queued', 'running']),
      ),
    );
  return new Set(rows.map((row) => row.name));
}

/** Cuts runs into batches and sends them to the queue. */
export async function enqueue(campaignId: number, numbers: readonly number[]): Promise<void> {
  const boss = await queue();
  for (let from = 0; from < numbers.length; from += batchSize) {
    const batch: Batch = { campaignId, numbers: numbers.slice(from, from + batchSize) };
    await boss.send(batchQueue, batch);
  }
}

/** Stops a campaign: runs not yet begun are dropped, those under way finish and count. */
export async function stopCampaign(db: Database, campaignId: number): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.delete(tables.runs).where(and(eq(tables.runs.campaignId, campaignId), eq(tables.runs.state, 'queued')));
    await tx
      .update(tables.campaigns)
      .set({ state: 'stopped', finishedAt: new Date() })
      .where(
        and(eq(tables.campaigns.id, campaignId), inArray(tables.campaigns.state, ['queued', 'running']), ne(tables.campaigns.state, 'finished')),
      );
  });
  await announce(db, campaignId);
}
