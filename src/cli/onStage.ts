import { type CheckedCase, type CheckedProject, orderCodeRun, orderRun, plannedBuild, type RunOrder } from '@/core/project';
import type { Stage } from '@/core/shapes';
import { type Build, makeBuild } from '@/server/builds';

/** Makes the orders of runs at a stage; what has to be built for them is built once for each loop. */
export class OnStage {
  private readonly builds = new Map<string, Promise<Build>>();

  constructor(
    private readonly project: CheckedProject,
    readonly stage: Stage,
  ) {}

  /** @throws Error in words when a loop has nothing that could become code, or there is no compiler */
  async order(test: CheckedCase, seed?: number): Promise<RunOrder> {
    const { project } = this;
    if (this.stage === 'model') return orderRun(project, test, seed);
    const planned = plannedBuild(project, test.loop);
    if ('because' in planned) throw new Error(planned.because);
    const known = this.builds.get(planned.fingerprint) ?? makeBuild(planned);
    this.builds.set(planned.fingerprint, known);
    return orderCodeRun(project, test, planned, (await known).library, seed);
  }
}
