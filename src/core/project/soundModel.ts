import type { SourceFile } from '@/core/documents';
import type { Fault } from '@/core/fault';
import { plural } from '@/core/wording';
import { type CheckedProject, checkProject } from './check';

/** Documents that a run is made of, beside its case. */
const ofModel = /^(?:(?:components|loops|pairings|parameters|recordings|units)\/|(?:definitions|project)\.yaml$)/;

/** Faults of the documents that every run is made of. With any of them another model would be run than the one that is written: what is at fault is left out of it. */
export function modelFaults({ faults }: Pick<CheckedProject, 'faults'>): Fault[] {
  return faults.filter(({ place }) => ofModel.test(place.file));
}

/** Why nothing of a project can be run, in words; nothing where it can. */
export function whyNotRun(project: Pick<CheckedProject, 'faults'>): string | undefined {
  const faults = modelFaults(project);
  const [first] = faults;
  if (!first) return undefined;
  const { place, message, fix } = first;
  return `The model has ${plural(faults.length, 'fault')}, so nothing can be run${faults.length > 1 ? '. The first' : ''}: ${place.file}, line ${place.line}: ${message} ${fix}`;
}

/** Documents checked for a run. @throws Error in words, where their model has faults */
export function checkToRun(files: readonly SourceFile[]): CheckedProject {
  const project = checkProject(files);
  const why = whyNotRun(project);
  if (why !== undefined) throw new Error(why);
  return project;
}
