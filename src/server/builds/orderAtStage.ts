import { nameKey } from '@/core/language';
import { asCodeRun, type CheckedCase, type CheckedProject, type CodeOrder, orderRun, plannedBuild, type RunOrder } from '@/core/project';
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
export function orderAtStage(project: CheckedProject, test: CheckedCase, stage: Stage, seed?: number): Promise<OrderAtStage> {
  return atStage(project, orderRun(project, test, seed), stage);
}

/** A run of the model as one at a stage. @throws as `orderAtStage` */
export async function atStage(project: CheckedProject, order: RunOrder, stage: Stage): Promise<OrderAtStage> {
  if (stage === 'model') return { order };
  const loop = nameKey(order.experiment.plan.loop);
  const ofProject = known.get(project) ?? new Map();
  known.set(project, ofProject);
  const found = ofProject.get(loop) ?? { planned: plannedBuild(project, loop) };
  ofProject.set(loop, found);
  if ('because' in found.planned) throw new Error(found.planned.because);
  found.build ??= makeBuild(found.planned);
  try {
    const build = await found.build;
    return { order: asCodeRun(project, order, found.planned, build.library), build };
  } catch (problem) {
    // Another try may find a compiler.
    found.build = undefined;
    throw problem;
  }
}

/** Runs of a campaign at its stage; nobody keeps how each of very many compares with the model. @throws as `orderAtStage` */
export async function allAtStage(project: CheckedProject, orders: readonly RunOrder[], stage: Stage): Promise<RunOrder[]> {
  const all: RunOrder[] = [];
  for (const one of orders) {
    const { order } = await atStage(project, one, stage);
    const alone: RunOrder | CodeOrder = 'libraries' in order ? { ...order, againstModel: false } : order;
    all.push(alone);
  }
  return all;
}
