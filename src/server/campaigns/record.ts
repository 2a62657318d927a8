import { and, count, eq, ne, sql } from 'drizzle-orm';
import { encode } from '@/core/exchange';
import { type CheckedProject, discountOf, type RunResult, todayOf } from '@/core/project';
import { type Database, inParts, type Transaction, tables } from '@/server/database';
import type { Ran } from '@/server/pool';
import { announce } from './announce';
import type { ClaimedRun } from './claim';
import { keepRecorded } from './recorded';

/** Most obligations kept for one criterion in one run; the worst is always among them. */
const mostObligations = 2000;

/**
 * Writes a run's result once, in one transaction with its verdicts and obligations. A run that is done already stays as it is,
 * so that a batch worked twice counts once.
 */
export async function recordRun(
  db: Database,
  campaignId: number,
  number: number,
  project: CheckedProject,
  { result, touched, elapsedMs, trace }: Ran,
): Promise<boolean> {
  return db.transaction(async (tx) => {
    const [run] = await tx
      .update(tables.runs)
      .set({
        state: 'done',
        worker: null,
        verdict: result.verdict,
        fingerprint: result.fingerprint,
        traceHash: result.traceHash,
        error: result.error?.message ?? null,
        errorAt: result.error?.at ?? null,
        discounted: discountOf(result) ?? null,
        gaveUp: result.gaveUp?.text ?? null,
        simulatedSeconds: result.simulatedSeconds,
        elapsedMs,
        touched: touched ? encode(touched) : null,
        backToBack: result.backToBack ? encode(result.backToBack) : null,
        bench: result.bench ? encode(result.bench) : null,
        finishedAt: new Date(),
      })
      .where(and(eq(tables.runs.campaignId, campaignId), eq(tables.runs.number, number), ne(tables.runs.state, 'done')))
      .returning({ id: tables.runs.id });
    if (!run) return false;
    await recordVerdicts(tx, run.id, project, result);
    if (trace) await keepRecorded(tx, run.id, { result, trace });
    await finishWhenDone(tx, campaignId);
    await announce(tx, campaignId);
    return true;
  });
}

/** A run as a campaign knows it. */
type RunKey = Pick<ClaimedRun, 'campaignId' | 'number'>;

const isRun = ({ campaignId, number }: RunKey) => and(eq(tables.runs.campaignId, campaignId), eq(tables.runs.number, number));

/** Records a run of which nothing came but a reason. */
export async function recordFailure(db: Database, run: RunKey, reason: string): Promise<void> {
  await db.transaction(async (tx) => {
    await tx
      .update(tables.runs)
      .set({
        state: 'done',
        worker: null,
        verdict: 'error',
        fingerprint: '',
        traceHash: '',
        error: writable(reason),
        errorAt: 0,
        finishedAt: new Date(),
      })
      .where(and(isRun(run), ne(tables.runs.state, 'done')));
    await finishWhenDone(tx, run.campaignId);
    await announce(tx, run.campaignId);
  });
}

/** Puts a run back that was begun and not finished by no fault of its own. */
export async function putBack(db: Database, run: RunKey): Promise<void> {
  await db
    .update(tables.runs)
    .set({ state: 'queued', worker: null, attempts: sql`${tables.runs.attempts} - 1` })
    .where(and(isRun(run), eq(tables.runs.state, 'running')));
}

/** Drops a run of a campaign that was stopped. */
export async function dropRun(db: Database, run: RunKey): Promise<void> {
  await db.delete(tables.runs).where(and(isRun(run), eq(tables.runs.state, 'running')));
  await announce(db, run.campaignId);
}

/** A text that PostgreSQL can hold: without NUL and halves of characters. */
function writable(text: string): string {
  return Buffer.from(text.replaceAll('\0', ''), 'utf8').toString('utf8');
}

async function recordVerdicts(tx: Transaction, runId: number, project: CheckedProject, result: RunResult): Promise<void> {
  const today = todayOf(project);
  const found = result.results.map(({ requirement, name, verdict, obligations, worst }) => ({
    runId,
    requirement,
    criterion: name,
    verdict,
    obligations: obligations.length,
    worst: worst ?? null,
    evidence: today.evidence(result.fingerprint, requirement, name),
  }));
  for (const part of inParts(found)) await tx.insert(tables.verdicts).values(part);
  const rows = result.results.flatMap(({ requirement, name, obligations, worst }) =>
    obligations.flatMap((one, ordinal) =>
      ordinal < mostObligations || ordinal === worst
        ? [
            {
              runId,
              requirement,
              criterion: name,
              ordinal,
              owedFrom: one.from,
              owedUntil: one.until,
              outcome: one.outcome,
              at: one.at,
              margin: one.margin?.value ?? null,
              unit: one.margin?.unit ?? null,
              measure: one.margin?.measure ?? null,
              atLeast: one.margin?.atLeast ?? false,
              reason: one.reason ?? null,
            },
          ]
        : [],
    ),
  );
  for (const part of inParts([...rows, ...expectedRows(runId, result)])) await tx.insert(tables.obligations).values(part);
}

/** What the case itself expected: obligations of no requirement. */
function expectedRows(runId: number, { expected }: RunResult): (typeof tables.obligations.$inferInsert)[] {
  return expected.map(({ text, from, until, at, outcome }, ordinal) => ({
    runId,
    requirement: '',
    criterion: text,
    ordinal,
    owedFrom: from,
    owedUntil: until,
    outcome,
    at,
  }));
}

async function finishWhenDone(tx: Transaction, campaignId: number): Promise<void> {
  // The row lock makes two workers that finish at once see each other's last run.
  await tx.select({ id: tables.campaigns.id }).from(tables.campaigns).where(eq(tables.campaigns.id, campaignId)).for('update');
  const [open] = await tx
    .select({ runs: count() })
    .from(tables.runs)
    .where(and(eq(tables.runs.campaignId, campaignId), ne(tables.runs.state, 'done')));
  if (open?.runs === 0) {
    await tx
      .update(tables.campaigns)
      .set({ state: 'finished', finishedAt: new Date() })
      .where(and(eq(tables.campaigns.id, campaignId), ne(tables.campaigns.state, 'stopped')));
  }
}
