import type { Column, Trace } from '@/core/trace';
import { lowerBound } from './reduce';

/** Two signals of one trace to be plotted against each other. */
export interface PhasePair {
  readonly trace: Trace;
  readonly across: Column;
  readonly up: Column;
}

/**
 * The way of two signals against each other from one instant to another: a point at every row of either, and where one that holds its value changes it, a point just before.
 * Between rows it is straight, as both signals are.
 * @returns values, across and up; where either has no value the way breaks off and NaN stands between
 */
export function phaseWay({ trace, across, up }: PhasePair, from: number, until: number): [number, number][] {
  const [first, last] = [Math.max(from, trace.from), Math.min(until, trace.until)];
  if (!(last >= first)) return [];
  const points: [number, number][] = [];
  const put = (x: number, y: number): void => {
    const [point, before] = [Number.isNaN(x + y) ? ([Number.NaN, Number.NaN] as [number, number]) : ([x, y] as [number, number]), points.at(-1)];
    if (!before || !Object.is(before[0], point[0]) || !Object.is(before[1], point[1])) points.push(point);
  };
  const [x, y] = [new Course(trace, across, first), new Course(trace, up, first)];
  put(x.at(first), y.at(first));
  for (let t = first; t < last; ) {
    t = Math.min(x.nextAfter(t), y.nextAfter(t), last);
    put(x.before(t), y.before(t));
    put(x.at(t), y.at(t));
  }
  return points;
}

/** Reads a signal at instants that only go on. */
class Course {
  private readonly time: Float64Array;
  private readonly data: Float64Array;
  private readonly isHeld: boolean;
  /** The first row at the instant or after it. */
  private row: number;

  constructor(trace: Trace, { base, data, between }: Column, from: number) {
    this.time = trace.bases[base] as Float64Array;
    this.data = data;
    this.isHeld = between === 'held';
    this.row = lowerBound(this.time, from);
  }

  /** When the next row comes (s); never is infinite. */
  nextAfter(t: number): number {
    let row = this.row;
    while ((this.time[row] as number) <= t) row += 1;
    return this.time[row] ?? Number.POSITIVE_INFINITY;
  }

  at(t: number): number {
    this.goTo(t);
    if (this.time[this.row] !== t) return this.between(t);
    let last = this.row;
    while (this.time[last + 1] === t) last += 1;
    return this.data[last] as number;
  }

  /** What the signal comes from at an instant: what it held, or where its line ends. */
  before(t: number): number {
    this.goTo(t);
    if (this.time[this.row] !== t) return this.between(t);
    return (this.isHeld ? (this.data[this.row - 1] ?? Number.NaN) : this.data[this.row]) as number;
  }

  private goTo(t: number): void {
    while ((this.time[this.row] as number) < t) this.row += 1;
  }

  private between(t: number): number {
    const { time, data, row } = this;
    if (row === 0) return Number.NaN;
    const before = data[row - 1] as number;
    if (this.isHeld || row >= time.length) return before;
    const [begin, end] = [time[row - 1] as number, time[row] as number];
    return before + ((t - begin) / (end - begin)) * ((data[row] as number) - before);
  }
}
