import { benchSteps } from '@/core/bench';
import type { Stage } from '@/core/shapes';
import type { CheckedProject } from '../check';
import type { CheckedCase } from '../checkedCase';
import { orderRun, type RunOrder } from '../run';
import { asBenchRun } from './benchRun';
import { benchOf } from './sheets';

/** Whether a case can be run on a bench alone: its script puts faults on one. */
export function isForBench({ experiment }: Pick<CheckedCase, 'experiment'>): boolean {
  return benchSteps(experiment.script).length > 0;
}

/** Where a case is run: at every stage that the project demands, but for one with faults of a bench. */
export function stagesOf({ project }: Pick<CheckedProject, 'project'>, test: CheckedCase): readonly Stage[] {
  return isForBench(test) ? project.stages.filter((stage) => stage === 'bench') : project.stages;
}

/** What is watched in a run of a case at a stage: on a bench, what can be seen there. */
export function watchedAt(project: CheckedProject, test: CheckedCase, stage: Stage): RunOrder['watched'] {
  const order = orderRun(project, test);
  if (stage !== 'bench') return order.watched;
  const bench = benchOf(project, test.loop);
  if (typeof bench === 'string') return [];
  try {
    return asBenchRun(project, order, bench, undefined).watched;
  } catch {
    // It ends in an error, whatever is watched.
    return [];
  }
}
