import { stringify } from 'yaml';
import { shaped, type TakenFrom, takenFromShape } from '@/core/shapes';
import { parsedYaml } from '@/core/yaml';

/** Name of the small file in exported folders and archives that says which revision they hold. */
export const takenFromFile = 'taken-from.yaml';

export function writeTakenFrom({ project, revision }: TakenFrom): string {
  return `# The revision these documents were taken from. Ovrand needs it to bring in what was changed since, and nothing else.\n${stringify({ project, revision })}`;
}

/** @returns undefined where the text does not say it */
export function readTakenFrom(text: string): TakenFrom | undefined {
  const document = parsedYaml(text);
  const value: unknown = document.errors.length === 0 ? document.toJS({ maxAliasCount: 0 }) : undefined;
  const found = value ? shaped(value, takenFromShape) : { wrong: '' };
  return 'value' in found && isIdentity.test(found.value.project) ? { project: found.value.project, revision: found.value.revision } : undefined;
}

const isIdentity = /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;
