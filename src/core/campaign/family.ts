import { quantile, sorted } from '@/core/statistics';
import { resampled, type Trace } from '@/core/trace';

/** One signal of a run at instants of equal distance; NaN after the run has ended. */
export interface Response {
  readonly number: number;
  readonly values: Float64Array;
  /** Where the campaign measures whether the loop is stable: it is not in this run. */
  readonly isUnstable?: boolean;
}

/** Where a share of the runs lies at each instant. */
export interface Band {
  readonly low: Float64Array;
  readonly high: Float64Array;
}

/** A family of responses summed up at each instant. */
export interface FamilyBands {
  readonly median: Float64Array;
  /** From the 5th to the 95th percentile, and from the 25th to the 75th. */
  readonly wide: Band;
  readonly narrow: Band;
  /** The least and the greatest of all. */
  readonly whole: Band;
}

/** One signal of a trace at instants from 0 on, each `every` seconds after the one before; peaks between the instants are not in it. @returns nothing where the trace has no such signal */
export function responseOf(trace: Trace, signal: string, every: number, instants: number): Float64Array | undefined {
  const column = trace.columns.find((one) => one.name === signal);
  if (!column) return undefined;
  const [found] = resampled({ ...trace, columns: [column] }, every, 0, every * (instants - 1)).columns;
  const last = trace.until;
  // A held value does not go on after the run has ended.
  return found?.data.map((value, index) => (index * every > last + 1e-9 ? Number.NaN : value));
}

/** Percentiles over the runs at each instant, of those that have not ended before. */
export function bandsOf(responses: readonly Response[]): FamilyBands {
  const instants = responses[0]?.values.length ?? 0;
  const make = (): Float64Array => new Float64Array(instants).fill(Number.NaN);
  const bands = { median: make(), wide: { low: make(), high: make() }, narrow: { low: make(), high: make() }, whole: { low: make(), high: make() } };
  for (let at = 0; at < instants; at += 1) {
    const ordered = sorted(responses.map((one) => one.values[at] as number));
    if (ordered.length === 0) continue;
    bands.median[at] = quantile(ordered, 0.5);
    bands.wide.low[at] = quantile(ordered, 0.05);
    bands.wide.high[at] = quantile(ordered, 0.95);
    bands.narrow.low[at] = quantile(ordered, 0.25);
    bands.narrow.high[at] = quantile(ordered, 0.75);
    bands.whole.low[at] = ordered[0] as number;
    bands.whole.high[at] = ordered.at(-1) as number;
  }
  return bands;
}

/** Runs whose responses stand for all: the ones named, then others evenly over the design. */
export function chosenForFamily(total: number, most: number, named: readonly number[]): number[] {
  const chosen = new Set(named.filter((one) => one >= 1 && one <= total));
  const wanted = Math.min(most, total);
  for (let index = 0; index < wanted && chosen.size < wanted; index += 1) chosen.add(1 + Math.floor((index * total) / wanted));
  return [...chosen].sort((a, b) => a - b);
}
