import { type CriterionResult, judgeOutcome, type RunOrder } from '@/core/project';
import { type Effort, type RunOutcome, recycleTrace, simulate } from '@/core/simulate';
import type { Column, Trace } from '@/core/trace';
import { timeWords } from '@/core/wording';
import { comparedInstants, referenceSetting, type SolverSetting, solvedBy } from './settings';

/** How far one signal went from the reference, in the case where it went furthest. */
export interface Deviation {
  readonly case: string;
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
  /** Of the simulation, the quickest of the runs of each case; milliseconds. */
  readonly ms: number;
  readonly effort: Effort;
  /** The signals, those that went furthest first. */
  readonly deviations: readonly Deviation[];
  /** Criteria that came out otherwise than with the reference. */
  readonly changed: readonly {
    readonly case: string;
    readonly requirement: string;
    readonly name: string;
    readonly from: string;
    readonly to: string;
  }[];
  readonly error?: string;
}

/** Below, a run is made twice more, since the first of a plan compiles its code; milliseconds. */
const briefRun = 1_000;

/** Cases of one loop solved in many ways, each held against its run at very tight tolerances. */
export class SolverTrial {
  private readonly cases: readonly CaseTrial[];
  private isWarm = false;

  constructor(orders: readonly RunOrder[]) {
    this.cases = orders.map((order) => new CaseTrial(order));
  }

  /** @throws Error when the reference of a case cannot be computed */
  point(setting: SolverSetting): TrialPoint {
    const points = this.cases.map((one) => one.point(setting));
    // The very first ones were made while the engine was still compiling us, and memory was got for the first time.
    const warm = this.isWarm ? points : this.cases.map((one) => one.point(setting));
    this.isWarm = true;
    return warm.reduce(together);
  }
}

function together(a: TrialPoint, b: TrialPoint): TrialPoint {
  const further = [...a.deviations, ...b.deviations].sort((one, other) => other.share - one.share);
  const error = a.error ?? b.error;
  return {
    setting: a.setting,
    ms: a.ms + b.ms,
    effort: {
      accepted: a.effort.accepted + b.effort.accepted,
      rejected: a.effort.rejected + b.effort.rejected,
      evaluations: a.effort.evaluations + b.effort.evaluations,
    },
    deviations: [...new Map([...further].reverse().map((one) => [one.name, one])).values()].sort((one, other) => other.share - one.share),
    changed: [...a.changed, ...b.changed],
    ...(error === undefined ? {} : { error }),
  };
}

class CaseTrial {
  private reference: { readonly results: readonly CriterionResult[]; readonly signals: readonly Sampled[] } | undefined;
  private readonly instants: readonly number[];

  constructor(private readonly order: RunOrder) {
    const { plan, stopNs } = order.experiment;
    this.instants = comparedInstants(plan, stopNs);
  }

  point(setting: SolverSetting): TrialPoint {
    const { watched } = this.order;
    const { case: name } = this.order.experiment;
    const reference = this.referenceRun();
    const { outcome, ms } = this.run(setting);
    const { effort, error, trace } = outcome;
    const signals = sampled(trace, this.instants);
    const results = judgeOutcome(watched, outcome);
    recycleTrace(trace);
    return {
      setting,
      ms: ms < briefRun ? Math.min(ms, this.again(setting), this.again(setting)) : ms,
      effort,
      deviations: reference.signals
        .map((one, index) => ({ case: name, ...deviation(one, signals[index], this.instants) }))
        .sort((a, b) => b.share - a.share),
      changed: reference.results.flatMap(({ requirement, name: criterion, verdict }, index) => {
        const to = results[index]?.verdict ?? 'none';
        return to === verdict ? [] : [{ case: name, requirement, name: criterion, from: verdict, to }];
      }),
      ...(error ? { error: `${error.message} (in ${name})` } : {}),
    };
  }

  private run(setting: SolverSetting): { outcome: RunOutcome; ms: number } {
    const { experiment } = this.order;
    const solved = { ...experiment, plan: solvedBy(experiment.plan, setting) };
    const start = performance.now();
    const outcome = simulate(solved);
    return { outcome, ms: performance.now() - start };
  }

  private again(setting: SolverSetting): number {
    const { outcome, ms } = this.run(setting);
    recycleTrace(outcome.trace);
    return ms;
  }

  /** Stiff loops are too much for the explicit method at such a tolerance. */
  private referenceRun(): NonNullable<typeof this.reference> {
    if (this.reference) return this.reference;
    const { watched, experiment } = this.order;
    let why = '';
    for (const method of ['dormand-prince-54', 'rosenbrock-43'] as const) {
      const { outcome } = this.run(referenceSetting(experiment.plan, method));
      if (!outcome.error) this.reference = { results: judgeOutcome(watched, outcome), signals: sampled(outcome.trace, this.instants) };
      if (this.reference) return this.reference;
      why = outcome.error ? ` (${outcome.error.message}, at ${timeWords(outcome.error.at)})` : '';
    }
    throw new Error(`${experiment.case} ends in an error however tightly it is solved${why}; fix that first.`);
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

function deviation({ column, values }: Sampled, other: Sampled | undefined, instants: readonly number[]): Omit<Deviation, 'case'> {
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
