import { asc, eq } from 'drizzle-orm';
import type { BackToBack, BenchRecord, RunDetail } from '@/core/evidence';
import { decode } from '@/core/exchange';
import { nameKey } from '@/core/language';
import { ofCase, orderRun, todayOf, whyNotRun } from '@/core/project';
import { orderAtStage } from '@/server/builds';
import { readRecorded } from '@/server/campaigns';
import { type ReplayOrder, recordedRun } from '@/server/code';
import { type Database, tables } from '@/server/database';
import { findProject, openRevision } from '@/server/projects';
import { toObligation } from './ledger';

async function findRun(db: Database, runId: number) {
  const [row] = await db
    .select()
    .from(tables.runs)
    .innerJoin(tables.campaigns, eq(tables.campaigns.id, tables.runs.campaignId))
    .innerJoin(tables.projects, eq(tables.projects.id, tables.runs.projectId))
    .innerJoin(tables.revisions, eq(tables.revisions.id, tables.campaigns.revisionId))
    .where(eq(tables.runs.id, runId));
  return row;
}

/** A finished run with its obligations in order of time. */
export async function readRun(db: Database, runId: number): Promise<RunDetail | undefined> {
  const row = await findRun(db, runId);
  if (row?.runs.state !== 'done') return undefined;
  const { runs: run, projects: project, revisions: revision } = row;
  const checked = await openRevision(db, revision.id);
  const sentences = new Map(checked.criteria.map((one) => [JSON.stringify([one.requirement, one.name]), one.sentence]));
  const owed = await db
    .select()
    .from(tables.obligations)
    .where(eq(tables.obligations.runId, runId))
    .orderBy(asc(tables.obligations.owedFrom), asc(tables.obligations.requirement), asc(tables.obligations.ordinal));
  const verdicts = await db.select().from(tables.verdicts).where(eq(tables.verdicts.runId, runId));
  const head = await findProject(db, project.slug);
  const today = todayOf(head ? await openRevision(db, head.revisionId) : checked);
  return {
    id: run.id,
    address: `/api/runs/${run.id}`,
    slug: project.slug,
    caseName: run.caseName,
    stage: run.stage,
    seed: run.seed,
    verdict: run.verdict ?? 'none',
    revision: revision.number,
    isCurrent: today.fits(run),
    elapsedMs: run.elapsedMs ?? 0,
    simulatedSeconds: run.simulatedSeconds ?? 0,
    traceHash: run.traceHash ?? '',
    ...(run.error ? { error: { at: run.errorAt ?? 0, message: run.error } } : {}),
    ...(run.discounted ? { discounted: run.discounted } : {}),
    ...(run.gaveUp ? { gaveUp: run.gaveUp } : {}),
    ...(run.backToBack === null ? {} : { backToBack: decode(run.backToBack) as BackToBack }),
    ...(run.bench === null ? {} : { bench: decode(run.bench) as BenchRecord }),
    obligations: owed.map((one) => ({
      requirement: one.requirement || ofCase,
      criterion: one.criterion,
      sentence: sentences.get(JSON.stringify([one.requirement, one.criterion])) ?? '',
      ordinal: one.ordinal,
      obligation: toObligation(one),
    })),
    untriggered: [...new Set(verdicts.map((one) => one.requirement))].filter((id) =>
      verdicts.every((one) => one.requirement !== id || one.verdict === 'none'),
    ),
  };
}

/**
 * What a run is made of, at the revision it was run at: the experiment and what to watch.
 * @returns a sentence where this version cannot make it again: it finds faults in a model that an earlier one took
 */
export async function readRunOrder(db: Database, runId: number): Promise<ReplayOrder | string | undefined> {
  const row = await findRun(db, runId);
  if (!row) return undefined;
  const project = await openRevision(db, row.revisions.id);
  const test = project.cases.find((one) => nameKey(one.experiment.case) === nameKey(row.runs.caseName));
  if (!test) return undefined;
  const why = whyNotRun(project);
  if (why !== undefined) return `This run cannot be made again. ${why}`;
  const order = orderRun(project, test, row.runs.seed);
  const { stage, backToBack } = row.runs;
  if (stage === 'bench') {
    const recorded = await readRecorded(db, runId);
    return recorded && { ...order, recorded };
  }
  const agrees = backToBack === null || (decode(backToBack) as BackToBack).isExact;
  const hasUnits = order.experiment.plan.units !== undefined;
  if (!hasUnits && (stage === 'model' || agrees)) return order;
  const { order: again } = await orderAtStage(project, test, stage, row.runs.seed);
  const recorded = await recordedRun(again);
  return { ...order, ...(recorded ? { recorded } : {}) };
}
