import type { CaseView } from '@/core/evidence';
import { nameKey } from '@/core/language';
import { drawnCase, todayOf } from '@/core/project';
import type { Database } from '@/server/database';
import { openRevision, type ProjectHead } from '@/server/projects';
import { newestRuns } from './ledger';

/** The cases of a project with what their newest run found. */
export async function readCases(db: Database, head: ProjectHead): Promise<CaseView[]> {
  const project = await openRevision(db, head.revisionId);
  const runs = (await newestRuns(db, head.id)).filter((run) => run.stage === 'model');
  const today = todayOf(project);
  return project.cases.map(({ experiment, document }) => {
    const { raw } = document;
    const run = runs.find((one) => nameKey(one.caseName) === nameKey(experiment.case));
    return {
      ...drawnCase(experiment),
      about: raw.about ?? '',
      changes: [...Object.entries(raw.parameters ?? {}), ...Object.entries(raw.initial ?? {})].map(([name, value]) => `${name} = ${String(value)}`),
      meantFor: raw.meant_for ?? [],
      ...(run
        ? {
            run: {
              id: run.id,
              verdict: run.verdict ?? 'none',
              isCurrent: today.fits(run),
              elapsedMs: run.elapsedMs ?? 0,
              ...(run.discounted ? { discounted: run.discounted } : {}),
            },
          }
        : {}),
    };
  });
}

/** How long the newest run of each case took (ms), by its name. */
export async function readPaces(db: Database, projectId: number): Promise<Readonly<Record<string, number>>> {
  const runs = (await newestRuns(db, projectId)).filter((run) => run.stage === 'model');
  return Object.fromEntries(runs.flatMap((run) => (run.elapsedMs === null ? [] : [[run.caseName, run.elapsedMs] as const])));
}
