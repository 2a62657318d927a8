import { nameKey } from '@/core/language';
import type { CheckedProject } from '@/core/project';

/** A line that says why no cases are searched for in a loop: a co-simulation unit runs in a process of its own, and a search makes its runs by the thousand. */
export function unitIn(project: CheckedProject, loop: string): string | undefined {
  const [unit] = project.loops.get(nameKey(loop))?.plan.units ?? [];
  return unit && `${loop}: ${unit.component} is a co-simulation unit; no cases are searched for with it.\n`;
}
