import betaCdf from '@stdlib/stats-base-dists-beta-cdf';
import { upperBound } from './proportion';

/** More runs than anybody makes: where a claim needs more, none is said. */
const mostRuns = 1_000_000_000;

/**
 * How many runs have to be made to claim that at most a share fails, if so many of them fail: the least number whose exact upper bound is not above it.
 * Without a failure 1 − (1 − share)ⁿ ≥ confidence (S. S. Wilks 1941: 59 for 5 % at 95 %; for small shares about 3 / share, the "rule of three",
 * J. A. Hanley, A. Lippman-Hand 1983).
 * @returns undefined beyond a thousand million runs
 */
export function runsNeeded(share: number, confidence = 0.95, failed = 0): number | undefined {
  checkShare(share);
  return least(failed + 1, (runs) => upperBound(failed, runs, confidence) <= share);
}

/**
 * How many values are needed before the least and the greatest of them (or one of them alone) hold a share of all values between them, whatever their distribution
 * (S. S. Wilks 1941, Annals of Mathematical Statistics 12): 59 for one side, 93 for two, each 95 % of values at 95 % confidence.
 */
export function runsForTolerance(share: number, confidence: number, sides: 1 | 2): number {
  checkShare(share);
  return least(sides, (runs) => heldWith(runs, 1, share, sides) >= confidence) ?? Number.POSITIVE_INFINITY;
}

/**
 * With which confidence the span from the `rank`-th smallest to the `rank`-th greatest of n values (of one side: up to the `rank`-th greatest) holds a share of all values.
 * The probability that uniform order statistics lie so is a beta distribution's.
 */
export function heldWith(n: number, rank: number, share: number, sides: 1 | 2): number {
  const leftOut = rank * sides;
  return leftOut > n ? 0 : 1 - betaCdf(share, n - leftOut + 1, leftOut);
}

/** The least number from `from` on that is enough, of a condition that stays true once it is. */
function least(from: number, isEnough: (runs: number) => boolean): number | undefined {
  let high = from;
  while (!isEnough(high)) {
    high *= 2;
    if (high > mostRuns) return undefined;
  }
  let low = Math.max(from - 1, Math.floor(high / 2));
  if (high === from) return from;
  while (high - low > 1) {
    const middle = Math.floor((low + high) / 2);
    if (isEnough(middle)) high = middle;
    else low = middle;
  }
  return high;
}

function checkShare(share: number): void {
  if (!(share > 0 && share < 1)) throw new RangeError('a share is between 0 and 1');
}
