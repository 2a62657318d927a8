/** How two signals, sampled at the same instants, relate. */

/** Root mean square of the gap. */
export function rmsOf(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i += 1) sum += ((b[i] as number) - (a[i] as number)) ** 2;
  return Math.sqrt(sum / Math.max(1, a.length));
}

/** Normalised fit in percent: 100 is equality, 0 as good as the mean of the first (Ljung, System Identification, the usual measure). */
export function fitOf(a: Float64Array, b: Float64Array): number {
  const spread = spreadOf(a);
  let gap = 0;
  for (let i = 0; i < a.length; i += 1) gap += ((b[i] as number) - (a[i] as number)) ** 2;
  if (spread === 0) return gap === 0 ? 100 : Number.NEGATIVE_INFINITY;
  return 100 * (1 - Math.sqrt(gap / spread));
}

/** Gain and offset that bring the first nearest to the second: b ≈ gain · a + offset, by least squares. */
export function lineOf(a: Float64Array, b: Float64Array): { readonly gain: number; readonly offset: number } {
  const [ma, mb] = [meanOf(a), meanOf(b)];
  const aa = spreadOf(a);
  let ab = 0;
  for (let i = 0; i < a.length; i += 1) ab += ((a[i] as number) - ma) * ((b[i] as number) - mb);
  const gain = aa > 0 ? ab / aa : 1;
  return { gain, offset: mb - gain * ma };
}

/**
 * By how many samples the second comes later than the first: the highest normalised cross-correlation of the two without their means, over shifts up to a quarter of the length,
 * with a parabola through the peak. Zero where nothing moves.
 */
export function delayOf(a: Float64Array, b: Float64Array): number {
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

/**
 * Share of the time in which both rise, both fall or both stand still. A slope that would carry a signal no further than two hundredths of its span over the whole stretch is none.
 * It says whether two signals tell the same story, whatever lies between them.
 */
export function trendOf(a: Float64Array, b: Float64Array): number {
  const [signsA, signsB] = [slopes(a), slopes(b)];
  const same = signsA.filter((sign, index) => sign === signsB[index]).length;
  return signsA.length === 0 ? 1 : same / signsA.length;
}

function slopes(values: Float64Array): number[] {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const value of values) [low, high] = [Math.min(low, value), Math.max(high, value)];
  const still = (0.001 * (high - low)) / Math.max(1, values.length / 20);
  return Array.from({ length: Math.max(0, values.length - 1) }, (_, i) => {
    const step = (values[i + 1] as number) - (values[i] as number);
    return Math.abs(step) <= still ? 0 : Math.sign(step);
  });
}

/** Sum of the squared distances from the mean; zero where nothing but rounding moves. */
function spreadOf(values: Float64Array): number {
  const mean = meanOf(values);
  let sum = 0;
  for (const value of values) sum += (value - mean) ** 2;
  return sum <= 1e-24 * values.length * mean * mean ? 0 : sum;
}

function meanOf(values: Float64Array): number {
  let sum = 0;
  for (const value of values) sum += value;
  return sum / Math.max(1, values.length);
}
