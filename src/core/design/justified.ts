import { Coverage, touchedIn } from '@/core/coverage';
import { type CheckedCase, type CheckedProject, judgeGaps, judgeGoals } from '@/core/project';
import { simulate } from '@/core/simulate';
import { type Goal, isPart } from './goals/goals';

/** Tells of a goal whether it is justified that no case reaches it. @param test any case of the loop */
export function justifiedGoals({ project }: CheckedProject, { experiment }: CheckedCase): (goal: Goal) => boolean {
  if (project.justified.length === 0) return () => false;
  const untouched = new Coverage();
  untouched.add(experiment.plan, touchedIn(experiment.plan, simulate({ ...experiment, stopNs: 1, coverage: true })));
  const parts = [...judgeGaps(project, untouched.report()).justified.keys()];
  const goals = judgeGoals(project).justified;
  return (goal) => goals.has(goal.id) || parts.some((part) => isPart(goal, part));
}
