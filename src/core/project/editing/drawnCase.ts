import { drawnCourse, scriptLines } from '@/core/cases';
import type { CaseView, StimulusCourse } from '@/core/evidence';
import type { Experiment } from '@/core/simulate';

/** What a case does, ready to be drawn. */
export type DrawnCase = Pick<CaseView, 'name' | 'stopSeconds' | 'courses' | 'script'>;

/** What a case does: the courses of the inputs it moves, and its script. */
export function drawnCase(experiment: Experiment): DrawnCase {
  const { plan } = experiment;
  const courses = plan.inputs.flatMap((input, index): StimulusCourse[] => {
    const points = drawnCourse(experiment, index);
    const slot = plan.slots[input.slot];
    if (points.length === 0 || !slot) return [];
    return [{ name: input.name, type: slot.type, unit: slot.unit, points }];
  });
  return { name: experiment.case, stopSeconds: experiment.stopNs / 1e9, courses, script: scriptLines(experiment) };
}
