import { type ChannelWish, headerOf } from '@/core/bench';
import type { PlannedBuild } from '@/core/build';
import { nameKey } from '@/core/language';
import {
  asBenchRun,
  asCodeRun,
  type BenchInUse,
  type BenchOrder,
  benchOf,
  type CheckedCase,
  type CheckedProject,
  type CodeOrder,
  orderRun,
  plannedBuild,
  type RunOrder,
  whyNotRun,
} from '@/core/project';
import type { Stage } from '@/core/shapes';
import { unpackedUnits } from '@/server/units';
import { type Build, makeBuild } from './build';

/** What was planned and built for the loops of a project, as long as the project is in use. */
const known = new WeakMap<CheckedProject, Map<string, { readonly planned: ReturnType<typeof plannedBuild>; build?: Promise<Build> }>>();

/** A run at a stage, and the build that it is a run of. */
export interface OrderAtStage {
  readonly order: RunOrder | CodeOrder | BenchOrder;
  readonly build?: Build;
}

/**
 * A run of a case at a stage; what has to be built for it is built once for each loop.
 * @param bench which one, where there are several; the first for the loop unless said
 * @throws Error in words when the model has faults, the loop has nothing that could become code, there is no compiler, or no bench for it
 */
export function orderAtStage(project: CheckedProject, test: CheckedCase, stage: Stage, seed?: number, bench?: string): Promise<OrderAtStage> {
  return atStage(project, orderRun(project, test, seed), stage, bench);
}

/** A run of the model as one at a stage. @throws as `orderAtStage` */
export async function atStage(project: CheckedProject, order: RunOrder, stage: Stage, bench?: string): Promise<OrderAtStage> {
  const { plan } = order.experiment;
  return atStageOf(project, plan.units ? { ...order, units: await unpackedUnits(project, plan) } : order, stage, bench);
}

async function atStageOf(project: CheckedProject, order: RunOrder, stage: Stage, bench: string | undefined): Promise<OrderAtStage> {
  refuseFaulty(project);
  if (stage === 'model') return { order };
  const loop = nameKey(order.experiment.plan.loop);
  if (stage === 'bench') {
    const found = benchOf(project, loop, bench);
    if (typeof found === 'string') throw new Error(found);
    return onBench(project, order, found);
  }
  const { planned, build } = await built(project, loop);
  return { order: asCodeRun(project, order, planned, build.library), build };
}

/** A revision was sound when it was saved; a later version may find faults in it. */
function refuseFaulty(project: CheckedProject): void {
  const why = whyNotRun(project);
  if (why !== undefined) throw new Error(why);
}

/** A controller that takes the build gets it; one with a program of its own needs none. */
async function onBench(project: CheckedProject, order: RunOrder, bench: BenchInUse): Promise<OrderAtStage> {
  if (bench.raw.program === 'own') return { order: asBenchRun(project, order, bench, undefined) };
  const { build } = await built(project, nameKey(order.experiment.plan.loop));
  return { order: asBenchRun(project, order, bench, programOf(bench, build)), build };
}

/** The build as the controller of a bench gets it. */
export function programOf({ build: planned, wiring }: BenchInUse, { record, library }: Build): NonNullable<BenchOrder['bench']['program']> {
  const wishes = new Map(
    [...wiring.inputs, ...wiring.outputs].map(({ name, low, high, bits, counts, filterMs }): [string, ChannelWish] => [
      nameKey(name),
      { low, high, bits, filterMs, ...(counts ? { counts } : {}) },
    ]),
  );
  return { header: headerOf(planned, record.made, `${process.platform} ${process.arch}`, wishes), library };
}

/** The build of a loop, made once as long as the project is in use. @throws as `orderAtStage` */
export async function built(project: CheckedProject, loop: string): Promise<{ readonly planned: PlannedBuild; readonly build: Build }> {
  refuseFaulty(project);
  const ofProject = known.get(project) ?? new Map();
  known.set(project, ofProject);
  const found = ofProject.get(loop) ?? { planned: plannedBuild(project, loop) };
  ofProject.set(loop, found);
  if ('because' in found.planned) throw new Error(found.planned.because);
  found.build ??= makeBuild(found.planned);
  try {
    return { planned: found.planned, build: await found.build };
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
