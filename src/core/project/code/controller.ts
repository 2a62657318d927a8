import { type NoBuild, type PlannedBuild, planBuild } from '@/core/build';
import type { Project } from '@/core/documents';
import type { Faults } from '@/core/fault';
import { nameKey, nearestName } from '@/core/language';
import type { AssembledLoop } from '@/core/loop';

type Loops = ReadonlyMap<string, AssembledLoop>;

/** The components of a loop that are the controller, as the loop calls them: those the project names, or all that are sampled and nothing else. @param loop its key */
function controllerOf(project: Project, loops: Loops, loop: string): readonly string[] {
  const [document, assembled] = [project.loops.get(loop), loops.get(loop)];
  if (!document || !assembled) return [];
  if (document.paired) return document.paired.controller;
  const wanted = project.controller?.raw.components?.map(nameKey);
  const uses = Object.entries(document.raw.components);
  if (wanted) return uses.filter(([, { use }]) => wanted.includes(nameKey(use))).map(([name]) => name);
  const { tasks, states, assignments, inputs, slots, units = [] } = assembled.plan;
  const headOf = (name = ''): string => nameKey(name.split('.')[0] ?? '');
  const sampled = new Set(tasks.map((task) => headOf(task.component)));
  for (const { slot } of [...states, ...assignments, ...inputs]) sampled.delete(headOf(slots[slot]?.name));
  for (const { component } of units) sampled.delete(headOf(component));
  return uses.map(([name]) => name).filter((name) => sampled.has(nameKey(name)));
}

/** What becomes code for runs of a loop. @param loop its key */
export function plannedBuild({ project, loops }: { readonly project: Project; readonly loops: Loops }, loop: string): PlannedBuild | NoBuild {
  const document = project.loops.get(loop);
  const names = controllerOf(project, loops, loop);
  if (!document || names.length === 0) return { because: `The loop ${document?.raw.loop ?? loop} has no controller that could become code.` };
  return planBuild(project, document, names, project.controller?.raw.floats ?? 64);
}

/** Checks what the heading of a project says of its controller, and that it can become code where requirements have to be shown on it. */
export function checkController(project: Project, loops: Loops, faults: Faults): void {
  checkComponents(project, faults);
  checkTolerances(project, loops, faults);
  if (!project.stages.includes('code') || faults.count > 0) return;
  for (const loop of new Set(
    [...project.cases.values()].map(({ raw }) => nameKey(raw.variant === undefined ? raw.loop : `${raw.loop}/${raw.variant}`)),
  )) {
    const planned = loops.has(loop) ? plannedBuild({ project, loops }, loop) : undefined;
    if (planned && 'because' in planned && project.controller)
      faults.add(
        'type',
        project.controller.document.place(['stages']),
        `Requirements have to be shown on code, but ${planned.because.charAt(0).toLowerCase()}${planned.because.slice(1)}`,
        'Name the components that are the controller under controller: components:, or take code out of stages.',
      );
  }
}

function checkComponents({ controller, components, unusable }: Project, faults: Faults): void {
  controller?.raw.components?.forEach((name, index) => {
    if (components.has(nameKey(name)) || unusable.has(nameKey(name))) return;
    const near = nearestName(
      name,
      [...components.values()].map((one) => one.raw.component),
    );
    faults.add(
      'unknown-name',
      controller.document.place(['controller', 'components', index]),
      `There is no component "${name}".`,
      near ? `Did you mean "${near}"?` : 'Name a component under components/.',
    );
  });
}

function checkTolerances({ controller }: Project, loops: Loops, faults: Faults): void {
  for (const name of Object.keys(controller?.raw.tolerances ?? {})) {
    const catalogues = [...loops.values()].map((loop) => loop.catalogue);
    if (catalogues.some((one) => one.findEntry(name, ['output', 'state', 'variable', 'region', 'input']) || one.excuses(name.split('.')))) continue;
    const near = nearestName(
      name,
      catalogues.flatMap((one) => one.names()),
    );
    faults.add(
      'unknown-name',
      (controller as NonNullable<typeof controller>).document.keyPlace(['controller', 'tolerances', name]),
      `There is no signal "${name}" in any loop.`,
      near ? `Did you mean "${near}"?` : 'Give the full name, such as chamber.level.',
    );
  }
}

/** Tolerances of signals of a loop, by the key of their full name. */
export function tolerancesIn(project: Project, { catalogue }: AssembledLoop): ReadonlyMap<string, number> {
  return new Map(
    Object.entries(project.controller?.raw.tolerances ?? {}).flatMap(([name, tolerance]) => {
      const entry = catalogue.findEntry(name, ['output', 'state', 'variable', 'region', 'input']);
      return entry ? [[nameKey(entry.name), tolerance] as const] : [];
    }),
  );
}
