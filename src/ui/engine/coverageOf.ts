import { Coverage, touchedIn } from '@/core/coverage';
import { checkProject, judgeGaps, logicMark } from '@/core/project';
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
  const report = coverage.report();
  const { justified, lapsed } = judgeGaps(project, report);
  const gaps = [...report.items, ...report.conditions].filter(({ gap }) => gap !== undefined);
  return { cases: cases.length, loops, report, justified, lapsed, marks: new Map(gaps.map((one) => [one.id, logicMark(project, one)])) };
}
