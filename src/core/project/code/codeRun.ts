import { backToBack, hostedExperiment, type PlannedBuild, usualTolerance } from '@/core/build';
import type { BackToBack } from '@/core/evidence';
import { nameKey } from '@/core/language';
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
  /** It is held against its model; not where nobody keeps what comes of that. */
  readonly againstModel: boolean;
}

/** A run of a case in which the controller is compiled code. @param library the file of it */
export function orderCodeRun(project: CheckedProject, test: CheckedCase, build: PlannedBuild, library: string, seed?: number): CodeOrder {
  return asCodeRun(project, orderRun(project, test, seed), build, library);
}

/** A run of the model as one in which the controller is compiled code. */
export function asCodeRun(project: CheckedProject, order: RunOrder, build: PlannedBuild, library: string): CodeOrder {
  const loop = project.loops.get(nameKey(order.experiment.plan.loop));
  return {
    ...order,
    experiment: hostedExperiment(order.experiment, [build]),
    libraries: [library],
    model: order.experiment,
    build,
    tolerances: loop ? [...tolerancesIn(project.project, loop)] : [],
    againstModel: true,
  };
}

/**
 * Runs code, judges it, and holds it against its model.
 * @param hosts of the code
 * @param units makes the hosts of the plan's units anew, for each run that is made
 */
export function performCodeRun(
  order: CodeOrder,
  hosts: readonly Host[],
  digest?: Digest,
  units: () => readonly Host[] = () => [],
): { readonly result: RunResult; readonly trace: Trace; readonly againstModel: () => BackToBack } {
  const { result, trace } = performRun(order, digest, false, [...units(), ...hosts]);
  const { model, build, tolerances } = order;
  const againstModel = (): BackToBack =>
    backToBack(model, build, simulate(model, units()).trace, trace, new Map(tolerances), usualTolerance(build.width), units);
  return { result, trace, againstModel };
}
