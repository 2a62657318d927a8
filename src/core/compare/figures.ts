import { Pieces, type Signal } from './pieces';

/** How far two signals may lie apart: absolute + relative · |first|. */
export interface Band {
  readonly absolute: number;
  readonly relative: number;
}

/** The gap between two signals, exact for piecewise constant and piecewise straight ones. Instants in seconds. */
export interface Gap {
  readonly largest: number;
  readonly largestAt: number;
  /** First instant outside the band. */
  readonly first?: number;
  /** Time in which both have a value. */
  readonly compared: number;
}

/** Largest gap and first instant outside the band, both sides of every jump looked at. */
export function gapOf(one: Signal, other: Signal, from: number, until: number, band: Band): Gap {
  let [largest, largestAt, first, compared] = [0, from, Number.NaN, 0];
  const pieces = new Pieces(one, other, from, until);
  const { t0, t1, a0, a1, b0, b1 } = pieces;
  for (let count = pieces.next(); count > 0; count = pieces.next())
    for (let k = 0; k < count; k += 1) {
      const [d0, d1] = [gapAt(a0[k] as number, b0[k] as number), gapAt(a1[k] as number, b1[k] as number)];
      if (Number.isNaN(d0) || Number.isNaN(d1)) continue;
      compared += (t1[k] as number) - (t0[k] as number);
      if (Math.abs(d0) > largest) [largest, largestAt] = [Math.abs(d0), t0[k] as number];
      if (Math.abs(d1) > largest) [largest, largestAt] = [Math.abs(d1), t1[k] as number];
      if (Number.isNaN(first)) first = leavesBand(t0[k] as number, t1[k] as number, a0[k] as number, a1[k] as number, d0, d1, band);
    }
  return { largest, largestAt, ...(Number.isNaN(first) ? {} : { first }), compared };
}

/** Two equal values lie no distance apart, infinite ones too. */
export function gapAt(a: number, b: number): number {
  return a === b ? 0 : b - a;
}

/** What lies beyond the band: |d| − absolute − relative · |a|; above 0 the two part. */
export function beyond(a: number, d: number, { absolute, relative }: Band): number {
  return Math.abs(d) - absolute - (relative === 0 ? 0 : relative * Math.abs(a));
}

/** Whether a straight stretch lies inside its band as a whole: |d| is greatest at its ends, and the band is narrowest there but where the first signal goes through 0. */
export function staysInBand(a0: number, a1: number, d0: number, d1: number, band: Band): boolean {
  return beyond(a0, d0, band) <= 0 && beyond(a1, d1, band) <= 0 && (band.relative === 0 || a0 * a1 >= 0);
}

/**
 * First instant of a straight stretch outside the band; NaN when it stays inside. What lies beyond the band bends where the gap or the first signal changes sign, and
 * is straight between.
 */
export function leavesBand(t0: number, t1: number, a0: number, a1: number, d0: number, d1: number, band: Band): number {
  if (staysInBand(a0, a1, d0, d1, band)) return Number.NaN;
  let [share, value] = [0, beyond(a0, d0, band)];
  if (value > 0) return t0;
  if (!(t1 > t0)) return Number.NaN;
  for (const end of [...bendsOf(a0, a1, d0, d1), 1]) {
    const [a, d] = end === 1 ? [a1, d1] : [a0 + end * (a1 - a0), d0 + end * (d1 - d0)];
    const next = beyond(a, d, band);
    if (next > 0) return t0 + (share + (end - share) * (-value / (next - value))) * (t1 - t0);
    [share, value] = [end, next];
  }
  return Number.NaN;
}

/** Shares of a stretch at which the gap or the first signal changes sign, in order. */
function bendsOf(a0: number, a1: number, d0: number, d1: number): number[] {
  const zeros = [
    [a0, a1],
    [d0, d1],
  ].flatMap(([x = 0, y = 0]) => ((x < 0 && y > 0) || (x > 0 && y < 0) ? [x / (x - y)] : []));
  return zeros.sort((x, y) => x - y);
}

/** Integrals of two signals over the time in which both have a value. `d` is second − first; `a` and `b` are taken from their means. */
export interface Moments {
  readonly seconds: number;
  readonly meanA: number;
  readonly meanD: number;
  readonly aa: number;
  readonly ad: number;
  readonly dd: number;
  /** Of the signals as they are, not of their distance from the mean. */
  readonly squareA: number;
  readonly productAD: number;
  readonly squareD: number;
  /** Largest absolute value of either. */
  readonly size: number;
}

/** Exact integrals of products of straight stretches: ∫ x y = (t₁ − t₀) (2 x₀ y₀ + x₀ y₁ + x₁ y₀ + 2 x₁ y₁) / 6. */
export function momentsOf(one: Signal, other: Signal, from: number, until: number): Moments {
  let [seconds, sumA, sumD, size] = [0, 0, 0, 0];
  const first = new Pieces(one, other, from, until);
  for (let count = first.next(); count > 0; count = first.next())
    for (let k = 0; k < count; k += 1) {
      const [x0, x1, y0, y1] = [first.a0[k] as number, first.a1[k] as number, first.b0[k] as number, first.b1[k] as number];
      const [d0, d1, length] = [gapAt(x0, y0), gapAt(x1, y1), (first.t1[k] as number) - (first.t0[k] as number)];
      if (Number.isNaN(d0) || Number.isNaN(d1)) continue;
      size = Math.max(size, Math.abs(x0), Math.abs(x1), Math.abs(y0), Math.abs(y1));
      if (length === 0) continue;
      seconds += length;
      sumA += (length * (x0 + x1)) / 2;
      sumD += (length * (d0 + d1)) / 2;
    }
  const [meanA, meanD] = seconds > 0 ? [sumA / seconds, sumD / seconds] : [0, 0];
  let [aa, ad, dd] = [0, 0, 0];
  const second = new Pieces(one, other, from, until);
  for (let count = second.next(); count > 0; count = second.next())
    for (let k = 0; k < count; k += 1) {
      const d0 = gapAt(second.a0[k] as number, second.b0[k] as number) - meanD;
      const d1 = gapAt(second.a1[k] as number, second.b1[k] as number) - meanD;
      const sixth = ((second.t1[k] as number) - (second.t0[k] as number)) / 6;
      if (Number.isNaN(d0) || Number.isNaN(d1) || sixth === 0) continue;
      const [x0, x1] = [(second.a0[k] as number) - meanA, (second.a1[k] as number) - meanA];
      aa += sixth * 2 * (x0 * x0 + x0 * x1 + x1 * x1);
      dd += sixth * 2 * (d0 * d0 + d0 * d1 + d1 * d1);
      ad += sixth * (2 * x0 * d0 + x0 * d1 + x1 * d0 + 2 * x1 * d1);
    }
  // What rounding leaves of a signal that stands still is nothing.
  if (aa <= 1e-24 * seconds * meanA * meanA) [aa, ad] = [0, 0];
  return {
    seconds,
    meanA,
    meanD,
    aa,
    ad,
    dd,
    squareA: aa + seconds * meanA * meanA,
    productAD: ad + seconds * meanA * meanD,
    squareD: dd + seconds * meanD * meanD,
    size,
  };
}

/** Root mean square of the gap. */
export function rmsOf({ squareD, seconds }: Moments): number {
  return seconds > 0 ? Math.sqrt(Math.max(0, squareD) / seconds) : 0;
}

/** Normalised fit in percent: 100 is equality, 0 as good as the mean of the first (Ljung, System Identification, the usual measure). */
export function fitOf({ aa, squareD }: Moments): number {
  if (aa === 0) return squareD === 0 ? 100 : Number.NEGATIVE_INFINITY;
  return 100 * (1 - Math.sqrt(squareD / aa));
}

/** Gain and offset that bring the first nearest to the second: b ≈ gain · a + offset, by least squares. */
export function lineOf({ aa, ad, meanA, meanD }: Moments): { readonly gain: number; readonly offset: number } {
  const more = aa > 0 ? ad / aa : 0;
  return { gain: 1 + more, offset: meanD - more * meanA };
}

/** Root mean square of what is left of the gap once an offset alone, or a gain alone, is taken out of it. */
export function leftWithout({ seconds, dd, squareA, squareD, productAD }: Moments): { readonly offset: number; readonly gain: number } {
  const root = (square: number): number => (seconds > 0 ? Math.sqrt(Math.max(0, square) / seconds) : 0);
  return { offset: root(dd), gain: squareA > 0 ? root(squareD - (productAD * productAD) / squareA) : root(squareD) };
}
