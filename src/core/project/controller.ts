import { hostedExperiment, type NoBuild, type PlannedBuild, planBuild } from '@/core/build';
import { nameKey } from '@/core/language';
import type { CheckedProject } from './check';
import type { CheckedCase } from './checkedCase';
import { orderRun, type RunOrder } from './run';

/** The components of a loop that are the controller, as the loop calls them: those the project names, or all that are sampled and nothing else. */
export function controllerOf({ project, loops }: Pick<CheckedProject, 'project' | 'loops'>, loop: string): readonly string[] {
  const [document, assembled] = [project.loops.get(loop), loops.get(loop)];
  if (!document || !assembled) return [];
  const wanted = project.controller?.components?.map(nameKey);
  const uses = Object.entries(document.raw.components);
  if (wanted) return uses.filter(([, { use }]) => wanted.includes(nameKey(use))).map(([name]) => name);
  const { tasks, states, assignments, slots, inputs } = assembled.plan;
  const headOf = (name = ''): string => nameKey(name.split('.')[0] ?? '');
  const sampled = new Set(tasks.map((task) => headOf(task.component)));
  const others = [...states, ...assignments, ...inputs].map(({ slot }) => headOf(slots[slot]?.name));
  for (const one of others) sampled.delete(one);
  return uses.map(([name]) => name).filter((name) => sampled.has(nameKey(name)));
}

/** What becomes code for runs of a loop. @param loop its key */
export function plannedBuild(checked: Pick<CheckedProject, 'project' | 'loops'>, loop: string): PlannedBuild | NoBuild {
  const document = checked.project.loops.get(loop);
  const names = controllerOf(checked, loop);
  if (!document || names.length === 0) return { because: `the loop ${document?.raw.loop ?? loop} has no controller that could become code` };
  return planBuild(checked.project, document, names, checked.project.controller?.floats ?? 64);
}

/** A run of a case in which the controller is compiled code. @param library the file of it */
export function orderCodeRun(project: CheckedProject, test: CheckedCase, build: PlannedBuild, library: string, seed?: number): RunOrder {
  const order = orderRun(project, test, seed);
  return { ...order, experiment: hostedExperiment(order.experiment, [build]), libraries: [library] };
}
