import { checkFaceNames, checkNetworkUnits } from '@/core/behaviour';
import { type ComponentDocument, checkPicture, type Project } from '@/core/documents';
import type { Faults } from '@/core/fault';
import { checkFunctions } from '@/core/formula';
import { nameKey } from '@/core/language';
import type { Steps } from '@/core/steps';
import { findUnit, unitAdvice } from '@/core/units';
import { aloneLoop } from './alone';
import { assembleLoop } from './loop';

/** Checks every component by itself: its face, and, where no loop uses it, its behaviour too; and all functions, called or not. */
export function* checkComponents(project: Project, faults: Faults): Steps<void> {
  const used = usedComponents(project);
  checkFunctions(project.library, project.definitions);
  for (const [key, component] of project.components) {
    yield;
    checkFaceNames(component, faults);
    checkUnits(component, faults);
    checkPicture(project, component, faults);
    const { behaviour } = component.raw;
    if (behaviour.kind === 'network') checkNetworkUnits(component, behaviour, project, faults);
    if (!used.has(key)) checkAlone(component, project, faults);
  }
}

/** Components that some loop uses, directly or inside networks. */
function usedComponents(project: Project): ReadonlySet<string> {
  const used = new Set<string>();
  const use = (name: string): void => {
    const key = nameKey(name);
    if (used.has(key)) return;
    used.add(key);
    const behaviour = project.components.get(key)?.raw.behaviour;
    if (behaviour?.kind === 'network') for (const part of Object.values(behaviour.parts)) use(part.use);
  };
  for (const loop of project.loops.values()) for (const one of Object.values(loop.raw.components)) use(one.use);
  return used;
}

function checkUnits(component: ComponentDocument, faults: Faults): void {
  for (const group of ['inputs', 'outputs', 'parameters'] as const) {
    for (const [name, port] of Object.entries(component.raw[group] ?? {})) {
      if (port.unit !== undefined && !findUnit(port.unit)) {
        faults.add('unknown-unit', component.document.place([group, name, 'unit']), `"${port.unit}" is not a unit.`, unitAdvice(port.unit));
      }
      if (port.min !== undefined && port.max !== undefined && port.min > port.max) {
        faults.add(
          'outside-limits',
          component.document.place([group, name, 'min']),
          `The minimum of ${name} (${port.min}) is above its maximum (${port.max}).`,
          'Swap or correct them.',
        );
      }
    }
  }
}

/** Every component is a loop by itself: its inputs are free. Where it has no period, one stands in. */
function checkAlone(component: ComponentDocument, project: Project, faults: Faults): void {
  assembleLoop(project, aloneLoop(component), faults);
}
