import { backToBack, hostedExperiment, type PlannedBuild, usualTolerance } from '@/core/build';
import type { BackToBack } from '@/core/evidence';
import { type Experiment, type Host, simulate } from '@/core/simulate';
import type { Digest, Trace } from '@/core/trace';
import type { CheckedProject } from '../check';
import type { CheckedCase } from '../checkedCase';
import { orderRun, performRun, type RunOrder, type RunResult } from '../run';
import { tolerancesIn } from './controller';

/** A run of compiled code, as plain data for a process that may end with it. */
export interface CodeOrder extends RunOrder {
  /** Files of the libraries, by the number of the host. */
  readonly libraries: readonly string[];
  /** The same run on the model, which the code is held against. */
  readonly model: Experiment;
  readonly build: PlannedBuild;
  /** Tolerances of signals by the key of their name. */
  readonly tolerances: readonly (readonly [string, number])[];
  /** The trace is wanted as well, not only what was found in it. */
  readonly wantsTrace?: boolean;
}

/** A run of a case in which the controller is compiled code. @param library the file of it */
export function orderCodeRun(project: CheckedProject, test: CheckedCase, build: PlannedBuild, library: string, seed?: number): CodeOrder {
  const order = orderRun(project, test, seed);
  const loop = project.loops.get(test.loop);
  return {
    ...order,
    experiment: hostedExperiment(order.experiment, [build]),
    libraries: [library],
    model: order.experiment,
    build,
    tolerances: loop ? [...tolerancesIn(project.project, loop)] : [],
  };
}

/** Runs code, judges it, and holds it against its model. */
export function performCodeRun(
  order: CodeOrder,
  hosts: readonly Host[],
  digest?: Digest,
): { readonly result: RunResult; readonly trace: Trace; readonly againstModel: () => BackToBack } {
  const { result, trace } = performRun(order, digest, false, hosts);
  const { model, build, tolerances } = order;
  const againstModel = (): BackToBack => backToBack(model, build, simulate(model).trace, trace, new Map(tolerances), usualTolerance(build.width));
  return { result, trace, againstModel };
}
