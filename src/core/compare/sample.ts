import type { Column, Trace } from '../trace';

/** A signal as a function of time. */
export type Curve = (t: number) => number;

/** The value a column has at an instant, after any jump there; NaN before its rows and, where it runs straight, after them. */
export function curveOf(column: Column, trace: Trace): Curve {
  const time = trace.bases[column.base] as Float64Array;
  return (t) => {
    const row = lastAt(time, t);
    if (row < 0 || (column.between === 'straight' && t > (time.at(-1) as number))) return Number.NaN;
    const [value, begun] = [column.data[row] as number, time[row] as number];
    const next = row + 1;
    if (column.between === 'held' || t === begun || next >= time.length) return value;
    return value + ((t - begun) / ((time[next] as number) - begun)) * ((column.data[next] as number) - value);
  };
}

/** Index of the last row at or before `t`; −1 when there is none. */
function lastAt(time: Float64Array, t: number): number {
  let [low, high] = [-1, time.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((time[middle] as number) <= t) low = middle;
    else high = middle - 1;
  }
  return low;
}

/** Values at equal distances over a stretch, both ends included. */
export function sampled(curve: Curve, from: number, until: number, count: number): Float64Array {
  return Float64Array.from({ length: count }, (_, index) => curve(from + ((until - from) * index) / (count - 1)));
}

/** The mean over a window around each value (2·half + 1 wide, less at the ends): ripple shorter than the window goes. */
export function smoothed(values: Float64Array, half: number): Float64Array {
  if (half < 1) return values;
  const sums = new Float64Array(values.length + 1);
  values.forEach((value, index) => {
    sums[index + 1] = (sums[index] as number) + value;
  });
  return values.map((_, index) => {
    const [first, end] = [Math.max(0, index - half), Math.min(values.length, index + half + 1)];
    return ((sums[end] as number) - (sums[first] as number)) / (end - first);
  });
}

/** Angles without their jumps from one turn to the next. @param turn a full turn in the signal's unit */
export function unwrapped(values: Float64Array, turn: number): Float64Array {
  let turns = 0;
  return values.map((value, index) => {
    const step = index === 0 ? 0 : value - (values[index - 1] as number);
    turns -= Math.round(step / turn);
    return value + turns * turn;
  });
}
