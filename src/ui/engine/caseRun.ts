import { checkProject, editedCase, performRun, triggeredBy } from '@/core/project';
import type { Digest } from '@/core/trace';
import type { EngineTalk } from './messages';

/** While a case is edited nobody compares the bytes of its trace, and their hash takes as long as the run. */
const noDigest: Digest = { update: () => undefined, hex: () => '' };

/** A case of the documents as they are now, run at once. */
export function caseIn({ files, file }: EngineTalk['edit case']['ask']): EngineTalk['edit case']['answer'] {
  const begun = performance.now();
  const project = checkProject(files);
  const faults = project.faults.filter(({ place }) => place.file === file);
  const found = editedCase(project, file);
  if (!found || faults.length > 0) return { faults, ...(found ? { view: found.view } : {}) };
  const { result, trace } = performRun(found.order, noDigest);
  return { faults, view: found.view, run: { trace, result, triggered: triggeredBy(project, result), ms: performance.now() - begun } };
}
