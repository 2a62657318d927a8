import { performRun, type RunOrder, type RunResult } from '../project';
import { type Effort, recycleTrace, simulate } from '../simulate';
import type { Column, Trace } from '../trace';
import { comparedInstants, referenceSetting, type SolverSetting, solvedBy } from './settings';

/** How far one signal went from the reference. */
export interface Deviation {
  readonly name: string;
  readonly unit: string;
  /** Largest distance, in the signal's unit, and its instant (s). */
  readonly distance: number;
  readonly at: number;
  /** The same as a share of the span the signal has in the reference. */
  readonly share: number;
}

/** What one setting costs and gives. */
export interface TrialPoint {
  readonly setting: SolverSetting;
  /** Of the simulation, the quicker of two runs; milliseconds. */
  readonly ms: number;
  readonly effort: Effort;
  /** The signals, those that went furthest first. */
  readonly deviations: readonly Deviation[];
  /** Criteria that came out otherwise than with the reference. */
  readonly changed: readonly { readonly requirement: string; readonly name: string; readonly from: string; readonly to: string }[];
  readonly error?: string;
}

const timedRuns = 2;

/** One case solved in many ways, each held against a run at very tight tolerances. */
export class SolverTrial {
  private reference: { readonly result: RunResult; readonly signals: readonly Sampled[] } | undefined;
  private readonly instants: readonly number[];

  constructor(private readonly order: RunOrder) {
    const { plan, stopNs } = order.experiment;
    this.instants = comparedInstants(plan, stopNs);
  }

  /** @throws Error when the reference itself cannot be computed */
  point(setting: SolverSetting): TrialPoint {
    const reference = this.referenceRun();
    const first = this.run(setting);
    const { error } = first.result;
    const signals = sampled(first.trace, this.instants);
    return {
      setting,
      ms: this.time(setting),
      effort: first.effort,
      deviations: reference.signals.map((one, index) => deviation(one, signals[index], this.instants)).sort((a, b) => b.share - a.share),
      changed: reference.result.results.flatMap(({ requirement, name, verdict }, index) => {
        const to = first.result.results[index]?.verdict ?? 'none';
        return to === verdict ? [] : [{ requirement, name, from: verdict, to }];
      }),
      ...(error ? { error: error.message } : {}),
    };
  }

  private run(setting: SolverSetting) {
    const { experiment } = this.order;
    return performRun({ ...this.order, experiment: { ...experiment, plan: solvedBy(experiment.plan, setting) } });
  }

  /** Of the simulation alone, once its code is warm. */
  private time(setting: SolverSetting): number {
    const { experiment } = this.order;
    const solved = { ...experiment, plan: solvedBy(experiment.plan, setting) };
    const times = Array.from({ length: timedRuns }, () => {
      const start = performance.now();
      recycleTrace(simulate(solved).trace);
      return performance.now() - start;
    });
    return Math.min(...times);
  }

  /** Stiff loops are too much for the explicit method at such a tolerance. */
  private referenceRun() {
    if (this.reference) return this.reference;
    const { plan } = this.order.experiment;
    for (const method of ['dormand-prince-54', 'rosenbrock-43'] as const) {
      const { result, trace } = this.run(referenceSetting(plan, method));
      if (!result.error) this.reference = { result, signals: sampled(trace, this.instants) };
      if (this.reference) return this.reference;
    }
    throw new Error('The case ends in an error however tightly it is solved; mend that first.');
  }
}

interface Sampled {
  readonly column: Column;
  readonly values: readonly number[];
}

/** The quantities that run through time, at given instants: the last of the rows that stand at each. */
function sampled({ bases, columns }: Trace, instants: readonly number[]): Sampled[] {
  return columns
    .filter((column) => column.between === 'straight')
    .map((column) => {
      const time = bases[column.base] as Float64Array;
      let row = 0;
      const values = instants.map((t) => {
        while (row + 1 < time.length && (time[row + 1] as number) <= t) row += 1;
        return column.data[row] as number;
      });
      return { column, values };
    });
}

function deviation({ column, values }: Sampled, other: Sampled | undefined, instants: readonly number[]): Deviation {
  let [distance, at, low, high] = [0, 0, Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  values.forEach((value, index) => {
    low = Math.min(low, value);
    high = Math.max(high, value);
    const gap = Math.abs((other?.values[index] ?? Number.NaN) - value);
    if (gap > distance || Number.isNaN(gap)) [distance, at] = [Number.isNaN(gap) ? Number.POSITIVE_INFINITY : gap, instants[index] as number];
  });
  const span = high - low;
  // A signal that stands still in the reference is measured against its height.
  const scale = span > 0 ? span : Math.max(Math.abs(high), 1);
  return { name: column.name, unit: column.unit, distance, at, share: distance / scale };
}
