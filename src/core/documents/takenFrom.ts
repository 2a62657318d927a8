import { parse, stringify } from 'yaml';

/** Name of the small file in exported folders and archives that says which revision they hold. */
export const takenFromFile = 'taken-from.yaml';

/** The revision of a project that a folder was taken from. */
export interface TakenFrom {
  /** The project's own identity, whatever its name. */
  readonly project: string;
  readonly revision: number;
}

export function writeTakenFrom({ project, revision }: TakenFrom): string {
  return `# The revision these documents were taken from. Ovrand needs it to bring in what was changed since, and nothing else.\n${stringify({ project, revision })}`;
}

/** @returns undefined where the text does not say it */
export function readTakenFrom(text: string): TakenFrom | undefined {
  try {
    const { project, revision } = parse(text) as Partial<TakenFrom>;
    const isIdentity = typeof project === 'string' && /^[0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12}$/.test(project);
    return isIdentity && Number.isInteger(revision) && (revision as number) > 0 ? { project, revision: revision as number } : undefined;
  } catch {
    return undefined;
  }
}
