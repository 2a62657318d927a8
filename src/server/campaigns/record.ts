import { and, count, eq, ne } from 'drizzle-orm';
import { type CheckedProject, discountOf, evidenceFingerprint, type RunResult } from '@/core';
import { type Database, type Transaction, tables } from '@/server/database';
import { announce } from './announce';

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
  result: RunResult,
  elapsedMs: number,
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
        finishedAt: new Date(),
      })
      .where(and(eq(tables.runs.campaignId, campaignId), eq(tables.runs.number, number), ne(tables.runs.state, 'done')))
      .returning({ id: tables.runs.id });
    if (!run) return false;
    await recordVerdicts(tx, run.id, project, result);
    await finishWhenDone(tx, campaignId);
    await announce(tx, campaignId);
    return true;
  });
}

async function recordVerdicts(tx: Transaction, runId: number, project: CheckedProject, result: RunResult): Promise<void> {
  const prose = new Map(project.project.requirements.map(({ raw }) => [raw.requirement, raw.text]));
  const sentences = new Map(project.criteria.map((one) => [JSON.stringify([one.requirement, one.name]), one.sentence]));
  if (result.results.length > 0) {
    await tx.insert(tables.verdicts).values(
      result.results.map(({ requirement, name, verdict, obligations, worst }) => ({
        runId,
        requirement,
        criterion: name,
        verdict,
        obligations: obligations.length,
        worst: worst ?? null,
        evidence: evidenceFingerprint(result.fingerprint, sentences.get(JSON.stringify([requirement, name])) ?? '', prose.get(requirement) ?? ''),
      })),
    );
  }
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
  for (let from = 0; from < rows.length; from += 1000) await tx.insert(tables.obligations).values(rows.slice(from, from + 1000));
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
