import { heldWith } from './runsNeeded';

/** Values in ascending order, without those that are missing. */
export function sorted(values: ArrayLike<number>): Float64Array {
  return Float64Array.from(values)
    .filter((value) => !Number.isNaN(value))
    .sort();
}

/**
 * The value below which a share of a distribution lies, from its ordered sample: at rank share · (n + 1), straight between neighbours
 * (NIST/SEMATECH e-Handbook of Statistical Methods, 7.2.6.2; W. Weibull 1939).
 * @returns NaN of an empty sample
 */
export function quantile(ordered: Float64Array, share: number): number {
  const n = ordered.length;
  if (n === 0) return Number.NaN;
  const rank = share * (n + 1);
  const below = Math.floor(rank);
  if (below < 1) return ordered[0] as number;
  if (below >= n) return ordered[n - 1] as number;
  const low = ordered[below - 1] as number;
  return low + (rank - below) * ((ordered[below] as number) - low);
}

/** A limit between which, or below or above which, a share of all values lies with a confidence, whatever their distribution. */
export interface Tolerance {
  readonly low: number;
  readonly high: number;
}

/**
 * Tolerance bounds by order statistics (S. S. Wilks 1941): the narrowest span of ordered values, as many left out at either end, that is enough.
 * @param side where the share lies: between two bounds, below the upper or above the lower one
 * @returns undefined where there are too few values
 */
export function toleranceBounds(
  ordered: Float64Array,
  share: number,
  confidence: number,
  side: 'between' | 'below' | 'above',
): Tolerance | undefined {
  const n = ordered.length;
  const sides = side === 'between' ? 2 : 1;
  let rank = 0;
  while ((rank + 1) * sides <= n && heldWith(n, rank + 1, share, sides) >= confidence) rank += 1;
  if (rank === 0) return undefined;
  return {
    low: side === 'below' ? Number.NEGATIVE_INFINITY : (ordered[rank - 1] as number),
    high: side === 'above' ? Number.POSITIVE_INFINITY : (ordered[n - rank] as number),
  };
}
