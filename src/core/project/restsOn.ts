import type { Project } from '@/core/documents';
import { nameKey } from '@/core/language';
import type { RawUse } from '@/core/shapes';
import type { CheckedCase } from './checkedCase';

/**
 * Which documents the result of a case may rest on, by their paths: its own and those of the cases it is like, those of its loop, of the components in it at any depth with their recordings, of the parameter
 * sets, the recordings its stimuli play, and what all formulas share. Requirements, desks, scenes and other cases are none of them.
 * What is given back is also told whether there was a document at the path before.
 */
export function restsOn(project: Project, { document, loop }: CheckedCase): (path: string, isNew?: boolean) => boolean {
  const paths = new Set([document.document.file, ...document.takenOver, ...documentsOfLoop(project, loop)]);
  for (const name of document.raw.parameter_sets ?? []) {
    const set = project.parameterSets.get(nameKey(name));
    if (set) paths.add(set.document.file);
  }
  for (const piece of Object.values(document.raw.stimuli ?? {}).flat()) if ('recording' in piece) paths.add(piece.recording);
  return (path, isNew = false) => paths.has(path) || (!isNew && isShared(path));
}

/** The same of what a loop is, without any case. */
export function restsOnLoop(project: Project, loop: string): (path: string) => boolean {
  const paths = documentsOfLoop(project, loop);
  return (path) => paths.has(path) || isShared(path) || path === 'project.yaml';
}

/** Functions and types of a file of Structured Text are there for all; those of a new one matter only to a document that has begun to use them. */
function isShared(path: string): boolean {
  return path === 'definitions.yaml' || /^components\/.*\.st$/i.test(path);
}

function documentsOfLoop(project: Project, loop: string): Set<string> {
  const paths = new Set<string>();
  const addComponents = (uses: Readonly<Record<string, RawUse>>): void => {
    for (const { use } of Object.values(uses)) {
      const component = project.components.get(nameKey(use));
      if (!component || paths.has(component.document.file)) continue;
      paths.add(component.document.file);
      const { behaviour } = component.raw;
      if (behaviour.kind === 'network') addComponents(behaviour.parts);
      if (behaviour.kind === 'recording' || behaviour.kind === 'unit') paths.add(behaviour.file);
    }
  };
  const own = project.loops.get(loop);
  if (own) {
    for (const file of own.paired?.files ?? [own.document.file]) paths.add(file);
    addComponents(own.raw.components);
  }
  for (const name of own?.raw.parameter_sets ?? []) {
    const set = project.parameterSets.get(nameKey(name));
    if (set) paths.add(set.document.file);
  }
  return paths;
}
