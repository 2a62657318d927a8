import { Pieces, type Signal, shifted } from './pieces';

/** Trends are looked at over windows of this share of the time compared. */
const windowShare = 0.01;
/** A signal that would go no further than this share of its span over the whole time stands still. */
const stillShare = 0.02;

/** Which way a signal goes over a window around each instant, as stretches: from `at[i]` on it is `way[i]` (1 up, −1 down, 0 still, NaN unknown). */
interface Course {
  readonly at: number[];
  readonly way: number[];
}

/**
 * Share of the time in which both rise, both fall or both stand still: whether two signals tell the same story, whatever lies between them. Over each instant lies
 * a window of a hundredth of the time, and the way a signal goes is the sign of the difference between the window's ends; these differences are piecewise
 * straight, so that the share is exact.
 */
export function trendOf(one: Signal, other: Signal, from: number, until: number): number {
  const half = (windowShare * (until - from)) / 2;
  const [begin, end] = [from + half, until - half];
  const [a, b] = [courseOf(one, half, from, until), courseOf(other, half, from, until)];
  let [same, seen, i, j, t] = [0, 0, 0, 0, begin];
  while (t < end) {
    const next = Math.min(a.at[i + 1] ?? end, b.at[j + 1] ?? end, end);
    const [p, q] = [a.way[i] ?? Number.NaN, b.way[j] ?? Number.NaN];
    if (!Number.isNaN(p) && !Number.isNaN(q)) {
      seen += next - t;
      if (p === q) same += next - t;
    }
    while (i + 1 < a.at.length && (a.at[i + 1] as number) <= next) i += 1;
    while (j + 1 < b.at.length && (b.at[j + 1] as number) <= next) j += 1;
    t = next;
  }
  return seen > 0 ? same / seen : 1;
}

function courseOf(signal: Signal, half: number, from: number, until: number): Course {
  const course: Course = { at: [], way: [] };
  const still = stillShare * windowShare * spanOf(signal, from, until);
  let last = Number.POSITIVE_INFINITY;
  const note = (t: number, way: number): void => {
    if (Object.is(last, way)) return;
    last = way;
    course.at.push(t);
    course.way.push(way);
  };
  const wayOf = (value: number): number => (Number.isNaN(value) ? value : Math.abs(value) <= still ? 0 : Math.sign(value));
  const pieces = new Pieces(shifted(signal, half), shifted(signal, -half), from + half, until - half);
  const { t0, t1, a0, a1, b0, b1 } = pieces;
  for (let count = pieces.next(); count > 0; count = pieces.next())
    for (let k = 0; k < count; k += 1) {
      const begin = t0[k] as number;
      const end = t1[k] as number;
      if (!(end > begin)) continue;
      const d0 = (b0[k] as number) - (a0[k] as number);
      const d1 = (b1[k] as number) - (a1[k] as number);
      // Most stretches go on as the one before.
      if ((last === 1 && d0 > still && d1 > still) || (last === -1 && d0 < -still && d1 < -still)) continue;
      const [w0, w1] = [wayOf(d0), wayOf(d1)];
      if (w0 === w1 || Number.isNaN(w0) || Number.isNaN(w1)) {
        note(begin, Number.isNaN(w1) ? w1 : w0);
        continue;
      }
      // Between the borders of standing still the way is one.
      const borders = [-still, still].flatMap((border) => ((d0 - border) * (d1 - border) < 0 ? [(border - d0) / (d1 - d0)] : []));
      const shares = [0, ...borders.sort((x, y) => x - y), 1];
      for (let n = 0; n + 1 < shares.length; n += 1) {
        const [low, high] = [shares[n] as number, shares[n + 1] as number];
        note(begin + low * (end - begin), wayOf(d0 + ((low + high) / 2) * (d1 - d0)));
      }
    }
  return course;
}

function spanOf(signal: Signal, from: number, until: number): number {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  const { time, data } = signal;
  for (let row = 0; row < data.length; row += 1) {
    const value = data[row] as number;
    if ((time[row] as number) < from || (time[row] as number) > until) continue;
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return high > low ? high - low : 0;
}
