import { drawnCourse, scriptLines } from '@/core/cases';
import type { CaseView, StimulusCourse } from '@/core/evidence';
import type { Experiment } from '@/core/simulate';
import type { Trace } from '@/core/trace';

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

/** The same with what the script does to inputs drawn as it came about in a run. */
export function drawnRun(experiment: Experiment, trace: Trace): DrawnCase {
  const drawn = drawnCase(experiment);
  if (drawn.script.length === 0) return drawn;
  const known = new Map(drawn.courses.map((one) => [one.name, one]));
  const courses = experiment.plan.inputs.flatMap(
    ({ name, slot }) => known.get(name) ?? steppedCourse(name, slot, experiment.plan.slots[slot]?.start, trace),
  );
  return { ...drawn, courses };
}

/** The course of an input that was set from time to time; nothing where it was left alone. */
function steppedCourse(name: string, slot: number, start: number | undefined, trace: Trace): StimulusCourse[] {
  const column = trace.columns.find((one) => one.slot === slot);
  const times = column && trace.bases[column.base];
  if (!column || !times) return [];
  const points: [number, number][] = [];
  column.data.forEach((value, index) => {
    const before = points.at(-1)?.[1];
    const at = times[index] as number;
    if (before === undefined) points.push([at, value]);
    else if (value !== before) points.push([at, before], [at, value]);
  });
  const last = points.at(-1)?.[1];
  if (last === undefined || points.every(([, value]) => value === start)) return [];
  return [{ name, type: column.type, unit: column.unit, points: [...points, [trace.until, last]] }];
}
