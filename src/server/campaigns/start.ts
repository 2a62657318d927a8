import { and, eq, inArray } from 'drizzle-orm';
import { nameKey } from '@/core/language';
import { stagesOf, whyNotRun } from '@/core/project';
import type { Stage } from '@/core/shapes';
import { type Database, inParts, tables } from '@/server/database';
import { openRevision, type ProjectHead } from '@/server/projects';
import { announce } from './announce';

/**
 * Queues a campaign: one run for each case named, or for all of them, at each stage that the project demands.
 * @param stage this one alone, whether it is demanded or not
 * @returns its id, or a sentence that says why it cannot start
 */
export async function startCampaign(
  db: Database,
  project: ProjectHead,
  names: readonly string[] | undefined,
  actor: string,
  stage?: Stage,
): Promise<number | string> {
  const checked = await openRevision(db, project.revisionId);
  const why = whyNotRun(checked);
  if (why !== undefined) return why;
  const wanted = names?.map(nameKey);
  const tests = checked.cases.filter((test) => !wanted || wanted.includes(nameKey(test.experiment.case)));
  const unknown = names?.find((name) => !tests.some((test) => nameKey(test.experiment.case) === nameKey(name)));
  if (unknown !== undefined) return `There is no case "${unknown}".`;
  if (tests.length === 0) return 'The project has no cases yet.';
  const wantedRuns = tests.flatMap((test) => (stage === undefined ? stagesOf(checked, test) : [stage]).map((one) => ({ test, stage: one })));
  if (wantedRuns.length === 0) return 'These cases can be run on a bench alone, and project.yaml does not demand that stage.';
  const campaignId = await db.transaction(async (tx) => {
    // One after the other: of two presses in quick succession the second must see the runs of the first.
    await tx.select().from(tables.projects).where(eq(tables.projects.id, project.id)).for('update');
    const underWay = await casesUnderWay(tx, project);
    if (wantedRuns.every((one) => underWay.has(keyOf(one.test.experiment.case, one.stage)))) return undefined;
    const [campaign] = await tx
      .insert(tables.campaigns)
      .values({ projectId: project.id, revisionId: project.revisionId, total: wantedRuns.length, createdBy: actor })
      .returning();
    if (!campaign) throw new Error('the campaign was not written');
    const waiting = wantedRuns.map(({ test, stage: at }, index) => ({
      campaignId: campaign.id,
      projectId: project.id,
      number: index + 1,
      caseName: test.experiment.case,
      stage: at,
      seed: test.experiment.seed,
    }));
    for (const part of inParts(waiting)) await tx.insert(tables.runs).values(part);
    return campaign.id;
  });
  if (campaignId === undefined) return 'These cases are being run already. Stop that campaign to start anew.';
  await announce(db, campaignId);
  return campaignId;
}

function keyOf(caseName: string, stage: string): string {
  return JSON.stringify([caseName, stage]);
}

/** Runs of cases of the newest revision that are queued or running, by case and stage. */
async function casesUnderWay(db: Pick<Database, 'select'>, project: ProjectHead): Promise<ReadonlySet<string>> {
  const rows = await db
    .select({ name: tables.runs.caseName, stage: tables.runs.stage })
    .from(tables.runs)
    .innerJoin(tables.campaigns, eq(tables.campaigns.id, tables.runs.campaignId))
    .where(
      and(
        eq(tables.campaigns.revisionId, project.revisionId),
        inArray(tables.campaigns.state, ['queued', 'running']),
        inArray(tables.runs.state, ['queued', 'running']),
      ),
    );
  return new Set(rows.map((row) => keyOf(row.name, row.stage)));
}

/** Stops a campaign: runs not yet begun are dropped, and so are those under way, as soon as their worker hears of it. */
export async function stopCampaign(db: Database, campaignId: number): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.delete(tables.runs).where(and(eq(tables.runs.campaignId, campaignId), eq(tables.runs.state, 'queued')));
    await tx.delete(tables.batches).where(and(eq(tables.batches.campaignId, campaignId), eq(tables.batches.state, 'queued')));
    await tx
      .update(tables.campaigns)
      .set({ state: 'stopped', finishedAt: new Date() })
      .where(and(eq(tables.campaigns.id, campaignId), inArray(tables.campaigns.state, ['queued', 'running', 'paused'])));
  });
  await announce(db, campaignId);
}
