import { nameKey, nearestName } from '@/core/language';
import type { CheckedProject } from '@/core/project';

/** The loops of a project, or the one that is named, by key and name. @throws Error where there is none of the name */
export function loopsNamed({ project, loops }: CheckedProject, name: string | undefined): (readonly [string, string])[] {
  const all = [...loops.keys()].map((key) => [key, project.loops.get(key)?.raw.loop ?? key] as const);
  if (name === undefined) return all;
  const found = all.filter(([key]) => key === nameKey(name));
  if (found.length > 0) return found;
  const names = all.map(([, one]) => one);
  const near = nearestName(name, names);
  throw new Error(`there is no loop "${name}"; ${near ? `did you mean "${near}"?` : `the loops are: ${names.join(', ')}`}`);
}
