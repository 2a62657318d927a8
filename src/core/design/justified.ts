import { Coverage, untouched } from '@/core/coverage';
import { type CheckedCase, type CheckedProject, judgeGaps, judgeGoals } from '@/core/project';
import { type Goal, isPart } from './goals/goals';

/** Tells of a goal whether it is justified that no case reaches it. @param test any case of the loop */
export function justifiedGoals({ project }: CheckedProject, { experiment }: CheckedCase): (goal: Goal) => boolean {
  if (project.justified.length === 0) return () => false;
  const nothing = new Coverage();
  nothing.add(experiment.plan, untouched(experiment.plan));
  const parts = [...judgeGaps(project, nothing.report()).justified.keys()];
  const goals = judgeGoals(project).justified;
  return (goal) => goals.has(goal.id) || parts.some((part) => isPart(goal, part));
}
