import { type Signal, valueAt } from './pieces';

/** So many instants at equal distances are looked at; a delay is known no better than to their distance. */
const samples = 2049;

/** By how many seconds the second comes later, and the distance of the instants it was looked for at. */
export interface Delay {
  readonly seconds: number;
  readonly resolution: number;
}

/** Both signals are resampled for this one figure, because a correlation over all their rows would take time in the square of their number. */
export function delayBetween(one: Signal, other: Signal, from: number, until: number): Delay {
  const resolution = (until - from) / (samples - 1);
  const sampled = (signal: Signal): Float64Array => Float64Array.from({ length: samples }, (_, index) => valueAt(signal, from + index * resolution));
  return { seconds: delayOf(sampled(one), sampled(other)) * resolution, resolution };
}

/**
 * By how many samples the second comes later than the first: the highest normalised cross-correlation of the two without their means, over shifts up to a quarter of the length,
 * with a parabola through the peak. Zero where nothing moves.
 */
function delayOf(a: Float64Array, b: Float64Array): number {
  if (a.every((value, index) => value === b[index])) return 0;
  const most = Math.floor(a.length / 4);
  const correlation = correlator(a, b);
  const scores = Float64Array.from({ length: 2 * most + 1 }, (_, index) => correlation(index - most));
  let best = most;
  scores.forEach((score, index) => {
    if (score > (scores[best] as number) + 1e-12) best = index;
  });
  if (!((scores[best] as number) > 0)) return 0;
  const [before, at, after] = [scores[best - 1], scores[best], scores[best + 1]] as const;
  const bend = before === undefined || after === undefined || at === undefined ? 0 : before - 2 * at + after;
  return best - most + (bend < 0 ? (0.5 * ((before as number) - (after as number))) / bend : 0);
}

/** Correlation of a(t) with b(t + shift), over what both have. Sums over a stretch come from running sums, so that a shift costs one pass. */
function correlator(a: Float64Array, b: Float64Array): (shift: number) => number {
  // Without their means, lest the differences of large sums lose their digits.
  const [ma, mb] = [meanOf(a), meanOf(b)];
  const [ca, cb] = [a.map((value) => value - ma), b.map((value) => value - mb)];
  const [sumsA, sumsB] = [runningSums(ca), runningSums(cb)];
  return (shift) => {
    const [first, end] = [Math.max(0, -shift), Math.min(a.length, b.length - shift)];
    const count = end - first;
    if (count < 2) return 0;
    let ab = 0;
    for (let i = first; i < end; i += 1) ab += (ca[i] as number) * (cb[i + shift] as number);
    const [sa, aa] = between(sumsA, first, end);
    const [sb, bb] = between(sumsB, first + shift, end + shift);
    const [spreadA, spreadB] = [aa - (sa * sa) / count, bb - (sb * sb) / count];
    // What is left of a difference is dust when nothing moves in the stretch.
    const isStill = spreadA <= 1e-12 * aa || spreadB <= 1e-12 * bb;
    return isStill ? 0 : (ab - (sa * sb) / count) / Math.sqrt(spreadA * spreadB);
  };
}

interface RunningSums {
  readonly values: Float64Array;
  readonly squares: Float64Array;
}

function runningSums(of: Float64Array): RunningSums {
  const [values, squares] = [new Float64Array(of.length + 1), new Float64Array(of.length + 1)];
  of.forEach((value, index) => {
    values[index + 1] = (values[index] as number) + value;
    squares[index + 1] = (squares[index] as number) + value * value;
  });
  return { values, squares };
}

function between({ values, squares }: RunningSums, first: number, end: number): readonly [number, number] {
  return [(values[end] as number) - (values[first] as number), (squares[end] as number) - (squares[first] as number)];
}

function meanOf(values: Float64Array): number {
  let sum = 0;
  for (const value of values) sum += value;
  return sum / Math.max(1, values.length);
}
