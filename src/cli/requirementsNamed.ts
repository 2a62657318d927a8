import { nameKey } from '@/core/language';
import type { CheckedProject } from '@/core/project';

/**
 * Whether a requirement is one of those that were named; any is where none was.
 * @throws Error in words, of one that is not there
 */
export function requirementsNamed({ project }: CheckedProject, ids: readonly string[] | undefined): (requirement: string) => boolean {
  if (!ids) return () => true;
  const known = new Set(project.requirements.map(({ raw }) => nameKey(raw.requirement)));
  for (const id of ids) if (!known.has(nameKey(id))) throw new Error(`there is no requirement ${id}`);
  const named = new Set(ids.map(nameKey));
  return (requirement) => named.has(nameKey(requirement));
}
