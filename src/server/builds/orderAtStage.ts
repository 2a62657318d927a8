import { type CheckedCase, type CheckedProject, type CodeOrder, orderCodeRun, orderRun, plannedBuild, type RunOrder } from '@/core/project';
import type { Stage } from '@/core/shapes';
import { type Build, makeBuild } from './build';

/** What was planned and built for the loops of a project, as long as the project is in use. */
const known = new WeakMap<CheckedProject, Map<string, { readonly planned: ReturnType<typeof plannedBuild>; build?: Promise<Build> }>>();

/** A run at a stage, and the build that it is a run of. */
export interface OrderAtStage {
  readonly order: RunOrder | CodeOrder;
  readonly build?: Build;
}

/**
 * A run of a case at a stage; what has to be built for it is built once for each loop.
 * @throws Error in words when the loop has nothing that could become code, or there is no compiler
 */
export async function orderAtStage(project: CheckedProject, test: CheckedCase, stage: Stage, seed?: number): Promise<OrderAtStage> {
  if (stage === 'model') return { order: orderRun(project, test, seed) };
  const ofProject = known.get(project) ?? new Map();
  known.set(project, ofProject);
  const found = ofProject.get(test.loop) ?? { planned: plannedBuild(project, test.loop) };
  ofProject.set(test.loop, found);
  if ('because' in found.planned) throw new Error(found.planned.because);
  found.build ??= makeBuild(found.planned);
  try {
    const build = await found.build;
    return { order: orderCodeRun(project, test, found.planned, build.library, seed), build };
  } catch (problem) {
    // Another try may find a compiler.
    found.build = undefined;
    throw problem;
  }
}
