import type { Faults } from '../fault';
import { nameKey } from '../language';
import { findUnit } from '../units';
import { addBehaviour } from './behaviour';
import { PlanBuilder } from './builder';
import { checkFaceNames, defaultType, instantiate } from './instance';
import type { ComponentDocument, Project } from './project';
import type { TypeLibrary } from './typeLibrary';
import { declare, readValue } from './values';

/** Checks every component by itself: its face, and, where no loop uses it, its behaviour too. */
export function checkComponents(project: Project, faults: Faults): void {
  const used = new Set([...project.loops.values()].flatMap((loop) => Object.values(loop.raw.components).map((one) => nameKey(one.use))));
  for (const [key, component] of project.components) {
    checkFaceNames(component, faults);
    checkUnits(component, faults);
    if (!used.has(key)) checkAlone(component, project.library, faults);
  }
}

function checkUnits(component: ComponentDocument, faults: Faults): void {
  for (const group of ['inputs', 'outputs', 'parameters'] as const) {
    for (const [name, port] of Object.entries(component.raw[group] ?? {})) {
      if (port.unit !== undefined && !findUnit(port.unit)) {
        faults.add(
          'unknown-unit',
          component.document.place([group, name, 'unit']),
          `"${port.unit}" is not a unit.`,
          'Write it as in UCUM: m, mm/s, m3/s, kPa, Cel, %, deg.',
        );
      }
      if (port.min !== undefined && port.max !== undefined && port.min > port.max) {
        faults.add(
          'outside-limits',
          component.document.place([group, name, 'min']),
          `The least value of ${name} (${port.min}) is above the greatest (${port.max}).`,
          'Exchange or correct them.',
        );
      }
    }
  }
}

function checkAlone(component: ComponentDocument, library: TypeLibrary, faults: Faults): void {
  const builder = new PlanBuilder();
  for (const [name, raw] of Object.entries(component.raw.parameters ?? {})) {
    readValue(
      raw.value,
      declare(`${component.raw.component}.${name}`, raw, defaultType(raw.value)),
      component.document.place(['parameters', name, 'value']),
      faults,
    );
  }
  // Whoever uses it may say the period; by itself it may do without.
  const instance = instantiate(component.raw.component, component, new Map(), builder, { periodNs: 1e9 });
  addBehaviour(instance, library, builder, faults);
}
