/** Index of the first entry of a sorted array that is at least `value`. */
export function lowerBound(sorted: ArrayLike<number>, value: number): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((sorted[middle] as number) < value) low = middle + 1;
    else high = middle;
  }
  return low;
}

/**
 * Reduces a curve to what a screen can show: for each pixel column its first, least, greatest and last value.
 * @returns points in pixels, at most about four a column
 */
export function reduceCurve(
  time: Float64Array,
  data: Float64Array,
  held: boolean,
  from: number,
  until: number,
  x: (t: number) => number,
  y: (value: number) => number,
): [number, number][] {
  const start = Math.max(0, lowerBound(time, from) - 1);
  const end = Math.min(time.length, lowerBound(time, until) + 2);
  const points: [number, number][] = [];
  let column = Number.NaN;
  let [low, high, last] = [0, 0, 0];
  const flush = (): void => {
    if (Number.isNaN(column)) return;
    if (low !== high) points.push([column, y(low)], [column, y(high)]);
    points.push([column, y(last)]);
  };
  for (let i = start; i < end; i += 1) {
    const value = data[i] as number;
    if (Number.isNaN(value)) continue;
    const at = Math.round(x(time[i] as number) * 2) / 2;
    if (at !== column) {
      flush();
      if (held && points.length > 0) points.push([at, y(last)]);
      column = at;
      points.push([at, y(value)]);
      [low, high] = [value, value];
    }
    low = Math.min(low, value);
    high = Math.max(high, value);
    last = value;
  }
  flush();
  if (held && points.length > 0) points.push([x(until), y(last)]);
  return points;
}

/** A stretch on which a held column keeps one value. */
export interface Band {
  readonly from: number;
  readonly until: number;
  readonly value: number;
}

/** The bands of a held column inside a window; bands thinner than `least` seconds are joined to their neighbour. */
export function bandsOf(time: Float64Array, data: Float64Array, from: number, until: number, least: number): Band[] {
  const bands: Band[] = [];
  let open: { from: number; value: number } | undefined;
  for (let i = Math.max(0, lowerBound(time, from) - 1); i < time.length; i += 1) {
    const t = time[i] as number;
    if (t > until) break;
    const value = data[i] as number;
    if (open?.value === value) continue;
    if (open && t - Math.max(open.from, from) >= least) bands.push({ ...open, until: t });
    open = { from: t, value };
  }
  if (open) bands.push({ ...open, until });
  return bands.map((band) => ({ ...band, from: Math.max(band.from, from) })).filter((band) => band.until > band.from);
}

/** Value of a column at an instant, as the trace defines it between rows. */
export function valueAt(time: Float64Array, data: Float64Array, held: boolean, t: number): number {
  const next = lowerBound(time, t);
  if (time[next] === t) {
    let last = next;
    while (time[last + 1] === t) last += 1;
    return data[last] as number;
  }
  if (next === 0) return Number.NaN;
  const before = data[next - 1] as number;
  if (held || next >= time.length) return before;
  const [ta, tb] = [time[next - 1] as number, time[next] as number];
  return before + ((t - ta) / (tb - ta)) * ((data[next] as number) - before);
}
