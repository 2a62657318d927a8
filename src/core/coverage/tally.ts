import type { Plan } from '@/core/plan';
import { Coverage, type CoverageReport } from './coverage';
import { logicOf, type Touched, together } from './touched';

/** What some runs of a list touched together. */
export interface TouchedByRuns {
  /** The number of one of them: its plan says what the counts mean. */
  readonly run: number;
  readonly touched: Touched;
}

/** Puts together what the runs of a list touched: a sum for each logic that they have. The order in which they come makes no difference to what is found. */
export class Tally {
  private readonly sums = new Map<string, { plan: Plan; run: number; touched: Touched }>();

  /** @param run its number; of runs of one logic the least is kept */
  add(run: number, plan: Plan, touched: Touched): void {
    const known = this.sums.get(logicOf(plan));
    if (!known) this.sums.set(logicOf(plan), { plan, run, touched });
    else {
      known.touched = together(plan, known.touched, touched);
      if (run < known.run) [known.run, known.plan] = [run, plan];
    }
  }

  /** The sums as they are kept, in the order of their runs. */
  get kept(): TouchedByRuns[] {
    return [...this.sums.values()].sort((a, b) => a.run - b.run).map(({ run, touched }) => ({ run, touched }));
  }

  report(): CoverageReport {
    const coverage = new Coverage();
    for (const { plan, touched } of [...this.sums.values()].sort((a, b) => a.run - b.run)) coverage.add(plan, touched);
    return coverage.report();
  }
}
