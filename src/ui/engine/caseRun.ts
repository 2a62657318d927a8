import { Coverage, touchedIn } from '@/core/coverage';
import { bordersReached, shownBy } from '@/core/design';
import { checkProject, editedCase, modelFaults, resultOf, triggeredBy } from '@/core/project';
import { simulate } from '@/core/simulate';
import type { Digest } from '@/core/trace';
import type { EngineTalk } from './messages';

/** While a case is edited nobody compares the bytes of its trace, and their hash takes as long as the run. */
const noDigest: Digest = { update: () => undefined, hex: () => '' };

/** A case of the documents as they are now, run at once. */
export function caseIn({ files, file }: EngineTalk['edit case']['ask']): EngineTalk['edit case']['answer'] {
  const begun = performance.now();
  const project = checkProject(files);
  const faults = project.faults.filter(({ place }) => place.file === file);
  const ofModel = modelFaults(project);
  const found = editedCase(project, file);
  if (!found || faults.length > 0 || ofModel.length > 0) return { faults, ofModel, ...(found ? { view: found.view } : {}) };
  const { test, order } = found;
  const outcome = simulate({ ...order.experiment, coverage: true });
  const result = resultOf(order, outcome, noDigest);
  const coverage = new Coverage();
  coverage.add(order.experiment.plan, touchedIn(order.experiment.plan, outcome));
  const run = {
    trace: outcome.trace,
    result,
    triggered: triggeredBy(project, result),
    borders: bordersReached(
      project,
      test,
      shownBy(project, test, outcome, () => true),
    ),
    touched: coverage.report(),
  };
  return { faults, ofModel, view: found.view, run: { ...run, ms: performance.now() - begun } };
}
