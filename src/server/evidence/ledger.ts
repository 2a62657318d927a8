import { and, count, desc, eq, inArray, isNotNull, max } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import type { Obligation } from '@/core/criteria';
import {
  type AtStage,
  acrossStages,
  type BackToBack,
  changedSinceRuns,
  contentHash,
  type Finding,
  type Ledger,
  type LedgerRow,
  type RequirementResult,
  rollUp,
  type Today,
  withOutOfDate,
} from '@/core/evidence';
import { decode } from '@/core/exchange';
import { nameKey } from '@/core/language';
import { type CheckedProject, requirementFacts, stagesOf, todayOf, watchedAt } from '@/core/project';
import { readClaims } from '@/server/campaigns';
import { type Database, tables } from '@/server/database';
import { openRevision, type ProjectHead } from '@/server/projects';
import { readAttempts } from './attempts';
import { type AgedRun, changedSince } from './changedSince';

/** Ledgers as they were worked out last, by what they rest on. */
const kept = new LRUCache<string, Promise<Ledger>>({ max: 8 });

/** What is known of every requirement, from the newest run of each case at each stage that the project demands. It is worked out once for a revision and the runs and campaigns there are: a page and what stands around it ask for the same. */
export async function readLedger(db: Database, head: ProjectHead): Promise<Ledger> {
  const key = await restingOn(db, head);
  const known = kept.get(key);
  if (known) return known;
  const made = workOut(db, head, key);
  kept.set(key, made);
  made.catch(() => kept.delete(key));
  return made;
}

/** What a ledger rests on beside the revision: the runs that are done, the campaigns that are summed up, and what was tried. */
async function restingOn(db: Database, head: ProjectHead): Promise<string> {
  const { runs, campaigns, tries } = tables;
  const [[done], [over], [tried]] = await Promise.all([
    db
      .select({ count: count(), newest: max(runs.id), last: max(runs.finishedAt) })
      .from(runs)
      .where(and(eq(runs.projectId, head.id), eq(runs.state, 'done'))),
    db
      .select({ count: count(), newest: max(campaigns.id) })
      .from(campaigns)
      .where(and(eq(campaigns.projectId, head.id), isNotNull(campaigns.summary))),
    db
      .select({ newest: max(tries.id) })
      .from(tries)
      .where(eq(tries.projectId, head.id)),
  ]);
  return JSON.stringify([head.revisionId, done, over, tried]);
}

async function workOut(db: Database, head: ProjectHead, key: string): Promise<Ledger> {
  const project = await openRevision(db, head.revisionId);
  const runs = await newestRuns(db, head.id);
  const today = todayOf(project);
  const { stages } = project.project;
  const known = runs.filter((run) => today.hasCase(run.caseName) && stages.includes(run.stage));
  const { current, old } = await readFindings(db, known, today);
  const atStages = stages.map((stage) => {
    const facts = requirementFacts(project, stage);
    const ofStage = (findings: readonly Finding[]) =>
      rollUp(
        facts,
        findings.filter((one) => one.stage === stage),
        project.cases.length,
      );
    return { stage, results: ofStage(current), before: ofStage(old) };
  });
  const claims = await readClaims(db, head);
  const attempts = await readAttempts(db, head, project);
  const changes = await changedSince(db, project, head.revisionId, agedRuns(known, old, today));
  const rows = project.project.requirements.map((requirement, index): LedgerRow => {
    const { raw, section } = requirement;
    const own = atStages.map(({ stage, results, before }) => ({
      stage,
      result: withOutOfDate(results[index] as RequirementResult, before[index] as RequirementResult),
      before: before[index] as RequirementResult,
    }));
    const found = acrossStages(own);
    const aged = own.find(({ result }) => result.reason === 'out of date');
    return {
      id: raw.requirement,
      section,
      text: raw.text,
      source: raw.source ?? '',
      note: raw.note ?? '',
      result: found,
      ...(own.length > 1 ? { stages: own.map(atStage) } : {}),
      ...(aged && found.state === 'lacks evidence'
        ? { outOfDate: { before: aged.before, since: changedSinceRuns(raw.requirement, old, changes) } }
        : {}),
      criteria: project.criteria
        .filter((one) => one.requirement === raw.requirement)
        .map(({ name, sentence, stl, acceptedBy }) => ({ name, sentence, stl, accepted: acceptedBy !== undefined })),
      claims: claims.get(raw.requirement) ?? [],
      attempts: attempts.get(raw.requirement) ?? [],
      meantCases: project.cases
        .filter((test) => test.document.raw.meant_for?.some((id) => nameKey(id) === nameKey(raw.requirement)))
        .map((test) => test.experiment.case),
      bearingCases: bearing(current, raw.requirement),
    };
  });
  const fitting = known.filter((run) => today.fits(run));
  const countOf = (state: string): number => rows.filter((row) => row.result.state === state).length;
  return {
    rows,
    stages,
    pass: countOf('pass'),
    fail: countOf('fail'),
    lacksEvidence: countOf('lacks evidence'),
    reasons: tally(rows.filter((row) => row.result.state === 'lacks evidence').map((row) => row.result.reason)),
    casesToRun: casesToRun(project, fitting, current),
    parted: fitting.flatMap((run) => {
      const found = run.backToBack === null ? undefined : (decode(run.backToBack) as BackToBack);
      return found && found.parted.length > 0 ? [{ case: run.caseName, runId: run.id, words: found.words }] : [];
    }),
    mark: contentHash(key).slice(0, 16),
  };
}

function atStage({ stage, result, before }: AtStage & { readonly before: RequirementResult }): AtStage {
  return { stage, result, ...(result.reason === 'out of date' ? { outOfDate: before } : {}) };
}

/** Cases without a run that fits today's model at some stage, or with a criterion that was not judged in it, as it now stands. */
function casesToRun(project: CheckedProject, runs: readonly NewestRun[], findings: readonly Finding[]): string[] {
  const judged = new Set(findings.map(({ run, requirement, criterion }) => JSON.stringify([run, requirement, criterion])));
  return project.cases
    .filter((test) => {
      const own = runs.filter((one) => nameKey(one.caseName) === nameKey(test.experiment.case));
      return stagesOf(project, test).some((stage) => {
        const watched = watchedAt(project, test, stage);
        const run = own.find((one) => one.stage === stage);
        return !run || watched.some(({ requirement, name }) => !judged.has(JSON.stringify([run.id, requirement, name])));
      });
    })
    .map((test) => test.experiment.case);
}

type NewestRun = Awaited<ReturnType<typeof newestRuns>>[number];

/** The newest finished run of each case at each stage. */
export async function newestRuns(db: Database, projectId: number) {
  return db
    .selectDistinctOn([tables.runs.caseName, tables.runs.stage])
    .from(tables.runs)
    .where(and(eq(tables.runs.projectId, projectId), eq(tables.runs.state, 'done')))
    .orderBy(tables.runs.caseName, tables.runs.stage, desc(tables.runs.id));
}

/** Findings of the newest runs, parted into those that still fit today's model, sentence and requirement text, and those that do not. */
async function readFindings(db: Database, runs: readonly NewestRun[], today: Today): Promise<{ current: Finding[]; old: Finding[] }> {
  if (runs.length === 0) return { current: [], old: [] };
  const rows = await db
    .select()
    .from(tables.verdicts)
    .leftJoin(
      tables.obligations,
      and(
        eq(tables.obligations.runId, tables.verdicts.runId),
        eq(tables.obligations.requirement, tables.verdicts.requirement),
        eq(tables.obligations.criterion, tables.verdicts.criterion),
        eq(tables.obligations.ordinal, tables.verdicts.worst),
      ),
    )
    .where(
      inArray(
        tables.verdicts.runId,
        runs.map((run) => run.id),
      ),
    );
  const byRun = new Map(runs.map((run) => [run.id, run]));
  const current: Finding[] = [];
  const old: Finding[] = [];
  for (const { verdicts: found, obligations: worst } of rows) {
    const run = byRun.get(found.runId) as NewestRun;
    const finding: Finding = {
      requirement: found.requirement,
      criterion: found.criterion,
      run: run.id,
      case: run.caseName,
      stage: run.stage,
      verdict: found.verdict,
      obligations: found.obligations,
      ...(worst ? { worst: toObligation(worst) } : {}),
      ...(run.discounted ? { discounted: run.discounted } : {}),
    };
    (today.counts(run, finding, found.evidence) ? current : old).push(finding);
  }
  return { current, old };
}

/** An obligation as core knows it, from its row. */
export function toObligation(row: typeof tables.obligations.$inferSelect): Obligation {
  return {
    from: row.owedFrom,
    until: row.owedUntil,
    outcome: row.outcome,
    at: row.at,
    ...(row.margin === null
      ? {}
      : { margin: { value: row.margin, unit: row.unit ?? '', measure: row.measure ?? row.margin, ...(row.atLeast ? { atLeast: true } : {}) } }),
    ...(row.reason ? { reason: row.reason } : {}),
  };
}

/** Runs that hold findings which no longer count. */
function agedRuns(runs: readonly NewestRun[], old: readonly Finding[], today: Today): AgedRun[] {
  const aged = new Set(old.map((finding) => finding.run));
  return runs.filter((run) => aged.has(run.id)).map((run) => ({ ...run, fits: today.fits(run) }));
}

function bearing(findings: readonly Finding[], requirement: string): LedgerRow['bearingCases'] {
  const own = findings.filter((finding) => finding.requirement === requirement && finding.obligations > 0);
  const order = ['error', 'fail', 'inconclusive', 'pass', 'none'] as const;
  return [...new Set(own.map((finding) => finding.run))].map((runId) => {
    const inRun = own.filter((finding) => finding.run === runId);
    const verdict = order.find((one) => inRun.some((finding) => finding.verdict === one)) ?? 'none';
    const { case: name, stage } = inRun[0] as Finding;
    return { name, stage, runId, verdict, obligations: inRun.reduce((sum, finding) => sum + finding.obligations, 0) };
  });
}

function tally(reasons: readonly string[]): { reason: string; count: number }[] {
  const counts = new Map<string, number>();
  // Reasons that name a case or a signal are counted by what they say before it.
  for (const reason of reasons.map((one) => one.replace(/[ :]+(in )?".*$/s, ''))) counts.set(reason, (counts.get(reason) ?? 0) + 1);
  return [...counts].map(([reason, count]) => ({ reason, count })).sort((a, b) => b.count - a.count);
}
