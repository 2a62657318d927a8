import { changeAfter, extremes } from './pyramid';

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
 * Reduces a curve to what a screen can show: for each half pixel its first, least, greatest and last value. Of a long column blocks are looked at in place of rows, so that a million of them
 * cost no more than some thousands.
 * @returns points in pixels, at most about four a half pixel
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
  const put = (at: number, value: number): void => {
    points.push([at, y(value)]);
  };
  let last = Number.NaN;
  for (let row = start; row < end; ) {
    const at = Math.round(x(time[row] as number) * 2) / 2;
    const next = endOfColumn(row, end, (index) => Math.round(x(time[index] as number) * 2) / 2 > at);
    const [low, high] = extremes(data, row, next);
    if (low <= high) {
      const [first, final] = [definedFrom(data, row, 1), definedFrom(data, next - 1, -1)];
      if (held && points.length > 0) put(at, last);
      put(at, first);
      if (low !== high) {
        put(at, low);
        put(at, high);
      }
      put(at, final);
      last = final;
    }
    row = next;
  }
  if (held && points.length > 0) put(x(until), last);
  return points;
}

/** The first row after `row` that falls into a later column of the screen: near ones are looked at one by one, far ones by halving. */
function endOfColumn(row: number, end: number, isLater: (index: number) => boolean): number {
  let [low, step] = [row, 1];
  while (low + step < end && !isLater(low + step)) {
    low += step;
    step *= 2;
  }
  let high = Math.min(end, low + step);
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (isLater(middle)) high = middle;
    else low = middle;
  }
  return high;
}

/** Whether so many rows lie in a window that their curve is an area on the screen. */
export function isDense(time: Float64Array, from: number, until: number, width: number): boolean {
  return lowerBound(time, until) - lowerBound(time, from) > rowsOfArea * width;
}
const rowsOfArea = 8;

/** The area that a dense curve fills: for each pixel its least and greatest value. */
export function envelopeOf(
  time: Float64Array,
  data: Float64Array,
  from: number,
  until: number,
  x: (t: number) => number,
  y: (value: number) => number,
): { at: number; low: number; high: number }[] {
  const end = Math.min(time.length, lowerBound(time, until) + 1);
  const columns: { at: number; low: number; high: number }[] = [];
  for (let row = lowerBound(time, from); row < end; ) {
    const at = Math.round(x(time[row] as number));
    const next = endOfColumn(row, end, (index) => Math.round(x(time[index] as number)) > at);
    const [low, high] = extremes(data, row, next);
    if (low <= high) columns.push({ at, low: y(low), high: y(high) });
    row = next;
  }
  return columns;
}

/** The nearest value in a direction that is defined; there is one. */
function definedFrom(data: Float64Array, row: number, step: 1 | -1): number {
  let at = row;
  while (Number.isNaN(data[at])) at += step;
  return data[at] as number;
}

/** A stretch on which a held column keeps one value; NaN where it has none. */
export interface Band {
  readonly from: number;
  readonly until: number;
  readonly value: number;
}

/** Several stretches in a row, each too thin to be seen by itself: for how long each value held (s), in the order they came. */
export interface MixedBand {
  readonly from: number;
  readonly until: number;
  readonly held: ReadonlyMap<number, number>;
}

/**
 * The bands of a held column inside a window, without gaps. A stretch thinner than `least` seconds that stands alone is a band all the same: nothing that came about is left out; several in a row are one
 * mixed band.
 * @returns at most two bands for each `least` in the window, and one more
 */
export function bandsOf(time: Float64Array, data: Float64Array, from: number, until: number, least: number): (Band | MixedBand)[] {
  const bands: (Band | MixedBand)[] = [];
  let thin: { first: Band; until: number; held: Map<number, number> } | undefined;
  const putThin = (): void => {
    if (thin) bands.push(thin.until === thin.first.until ? thin.first : { from: thin.first.from, until: thin.until, held: thin.held });
    thin = undefined;
  };
  for (const stretch of stretchesOf(time, data, from, until)) {
    const lasted = stretch.until - stretch.from;
    if (lasted < least) {
      thin ??= { first: stretch, until: stretch.until, held: new Map() };
      thin.until = stretch.until;
      thin.held.set(stretch.value, (thin.held.get(stretch.value) ?? 0) + lasted);
    } else {
      putThin();
      bands.push(stretch);
    }
  }
  putThin();
  return bands;
}

function* stretchesOf(time: Float64Array, data: Float64Array, from: number, until: number): Generator<Band> {
  const end = lowerBound(time, until);
  let open: { from: number; value: number } | undefined;
  for (let row = Math.max(0, lowerBound(time, from) - 1); row < end; ) {
    const [t, value] = [Math.max(time[row] as number, from), data[row] as number];
    if (!open || !Object.is(open.value, value)) {
      if (open && t > open.from) yield { ...open, until: t };
      open = { from: t, value };
    }
    row = changeAfter(data, row + 1, end, value);
  }
  if (open && until > open.from) yield { ...open, until };
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
