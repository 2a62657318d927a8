import normalCdf from '@stdlib/stats-base-dists-normal-cdf';
import normalQuantile from '@stdlib/stats-base-dists-normal-quantile';
import { numeric } from '@/core/numeric';

/** How a number scatters. Whatever it is in, its values are in the unit of the quantity. */
export type Distribution =
  | { readonly k: 'uniform'; readonly low: number; readonly high: number }
  | { readonly k: 'normal'; readonly mean: number; readonly deviation: number; readonly within?: readonly [low: number, high: number] }
  | { readonly k: 'triangular'; readonly low: number; readonly mode: number; readonly high: number }
  /** Its logarithm is normal with that standard deviation, about the logarithm of the median. */
  | { readonly k: 'lognormal'; readonly median: number; readonly deviation: number };

/**
 * The value below which a share `u` of the distribution lies, 0 < u < 1: drawn with uniform u, values scatter as they should, in any design.
 * A normal distribution that is cut off keeps its shape between its limits.
 */
export function valueAt(of: Distribution, u: number): number {
  switch (of.k) {
    case 'uniform':
      return of.low + u * (of.high - of.low);
    case 'normal':
      return normal(of, u);
    case 'triangular':
      return triangular(of, u);
    case 'lognormal':
      return of.median * numeric.exp(of.deviation * normalQuantile(u, 0, 1));
  }
}

function normal({ mean, deviation, within }: Distribution & { k: 'normal' }, u: number): number {
  if (!within) return normalQuantile(u, mean, deviation);
  const [low, high] = within;
  const [below, above] = [normalCdf(low, mean, deviation), normalCdf(high, mean, deviation)];
  return Math.max(low, Math.min(high, normalQuantile(below + u * (above - below), mean, deviation)));
}

function triangular({ low, mode, high }: Distribution & { k: 'triangular' }, u: number): number {
  const width = high - low;
  if (u * width < mode - low) return low + Math.sqrt(u * width * (mode - low));
  return high - Math.sqrt((1 - u) * width * (high - mode));
}
