import type { BackToBack, BenchRecord } from '@/core/evidence';
import { decode } from '@/core/exchange';
import { nameKey } from '@/core/language';
import { benchOf, type LiveOrder, liveOrder, whyNotRun } from '@/core/project';
import { built, programOf } from '@/server/builds';
import type { Database } from '@/server/database';
import { openRevision, type ProjectHead } from '@/server/projects';
import { keepBuild } from './builds';
import { newestRuns } from './ledger';

/**
 * What it takes to run a bench by hand, built and wired.
 * @returns a sentence where that cannot be
 */
export async function liveOrderOf(
  db: Database,
  head: ProjectHead,
  name: string,
  options: { readonly startFrom?: string; readonly shadow?: string } = {},
): Promise<LiveOrder | string> {
  const project = await openRevision(db, head.revisionId);
  const sheet = project.project.benches.get(nameKey(name));
  if (!sheet) return `There is no bench "${name}".`;
  const why = whyNotRun(project);
  if (why !== undefined) return why;
  const loop = nameKey(sheet.raw.loop);
  const bench = benchOf(project, loop, name);
  if (typeof bench === 'string') return bench;
  try {
    if (bench.raw.program === 'own') return liveOrder(project, bench, loop, undefined, options);
    const { build } = await built(project, loop);
    await keepBuild(db, { projectId: head.id, revisionId: head.revisionId, loop }, build, 'a bench');
    return liveOrder(project, bench, loop, programOf(bench, build), options);
  } catch (problem) {
    return problem instanceof Error ? `${problem.message.charAt(0).toUpperCase()}${problem.message.slice(1)}.` : String(problem);
  }
}

/** The newest run of each case on a bench: verdict, and what became of it in words. */
export async function readBenchRuns(db: Database, projectId: number) {
  const runs = (await newestRuns(db, projectId)).filter((run) => run.stage === 'bench');
  return runs.map((run) => {
    const compared = run.backToBack === null ? '' : (decode(run.backToBack) as BackToBack).words;
    return {
      runId: run.id,
      case: run.caseName,
      bench: run.bench === null ? '' : (decode(run.bench) as BenchRecord).bench,
      verdict: run.verdict ?? 'none',
      words: run.error ?? compared,
    };
  });
}
