import { and, inArray, ne } from 'drizzle-orm';
import type { CriterionTriggers, TriggeredByCases } from '@/core/evidence';
import { type Database, tables } from '@/server/database';
import type { ProjectHead } from '@/server/projects';
import { newestRuns } from './ledger';

/** For each criterion the cases whose newest run triggers it, and the cases that have been run at all. */
export async function readTriggered(db: Database, head: ProjectHead): Promise<TriggeredByCases> {
  const runs = (await newestRuns(db, head.id)).filter((run) => run.stage === 'model');
  const names = new Map(runs.map((run) => [run.id, run.caseName]));
  const { verdicts } = tables;
  const rows =
    runs.length === 0
      ? []
      : await db
          .select({ runId: verdicts.runId, requirement: verdicts.requirement, criterion: verdicts.criterion })
          .from(verdicts)
          .where(and(inArray(verdicts.runId, [...names.keys()]), ne(verdicts.verdict, 'none')));
  const found = new Map<string, CriterionTriggers & { cases: string[] }>();
  for (const { runId, requirement, criterion } of rows) {
    const key = JSON.stringify([requirement, criterion]);
    const known = found.get(key) ?? { requirement, criterion, cases: [] };
    known.cases.push(names.get(runId) ?? '');
    found.set(key, known);
  }
  return { criteria: [...found.values()], ran: [...names.values()] };
}
