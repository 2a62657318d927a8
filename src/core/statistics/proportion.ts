import betaQuantile from '@stdlib/stats-base-dists-beta-quantile';

/** A span of shares, both between 0 and 1. */
export interface Interval {
  readonly low: number;
  readonly high: number;
}

/**
 * Exact interval for the share of failing runs, from independent runs whose number was laid down before (C. J. Clopper, E. S. Pearson 1934,
 * Biometrika 26): each end leaves out (1 − confidence) / 2. It holds at least as often as it says, for every share.
 * @param failed how many of the runs failed
 * @throws RangeError if more failed than there are, or the confidence is not between 0 and 1
 */
export function exactInterval(failed: number, runs: number, confidence = 0.95): Interval {
  checkCounts(failed, runs, confidence);
  const outside = (1 - confidence) / 2;
  return {
    low: failed === 0 ? 0 : betaQuantile(outside, failed, runs - failed + 1),
    high: failed === runs ? 1 : betaQuantile(1 - outside, failed + 1, runs - failed),
  };
}

/** The share that fails at most, with that confidence: the upper end of the exact interval with everything left out above it. */
export function upperBound(failed: number, runs: number, confidence = 0.95): number {
  checkCounts(failed, runs, confidence);
  return failed === runs ? 1 : betaQuantile(confidence, failed + 1, runs - failed);
}

/** The share that fails at least, with that confidence. */
export function lowerBound(failed: number, runs: number, confidence = 0.95): number {
  checkCounts(failed, runs, confidence);
  return failed === 0 ? 0 : betaQuantile(1 - confidence, failed, runs - failed + 1);
}

export function checkCounts(failed: number, runs: number, confidence: number): void {
  if (!(Number.isInteger(failed) && Number.isInteger(runs) && failed >= 0 && runs >= failed))
    throw new RangeError('counts of runs are whole, and no more fail than there are');
  if (!(confidence > 0 && confidence < 1)) throw new RangeError('a confidence is between 0 and 1');
}
