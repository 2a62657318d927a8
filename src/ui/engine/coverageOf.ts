import { Coverage, touchedIn } from '@/core/coverage';
import { checkProject } from '@/core/project';
import { recycleTrace, simulate } from '@/core/simulate';
import type { EngineTalk } from './messages';

/** What all cases of a project together touch of its logic. */
export function coverageOf({ files }: EngineTalk['coverage']['ask']): EngineTalk['coverage']['answer'] {
  const { cases, project } = checkProject(files);
  const coverage = new Coverage();
  for (const { experiment } of cases) {
    const outcome = simulate({ ...experiment, coverage: true });
    coverage.add(experiment.plan, touchedIn(experiment.plan, outcome));
    recycleTrace(outcome.trace);
  }
  const loops = [...project.loops.values()].map(({ raw }) => raw.loop).filter((name) => !name.includes('/'));
  return { cases: cases.length, loops, report: coverage.report() };
}
