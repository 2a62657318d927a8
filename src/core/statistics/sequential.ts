import betaln from '@stdlib/math-base-special-betaln';
import { numeric } from '@/core/numeric';
import { checkCounts, type Interval } from './proportion';

/**
 * Interval for the share of failing runs that stays valid however often one looks, and whenever one stops for what one sees: over all instants together the true share
 * is outside with a probability of at most 1 − confidence. All shares p are in it for which the martingale B(k + ½, n − k + ½) / B(½, ½) / (pᵏ (1 − p)ⁿ⁻ᵏ),
 * the likelihoods mixed over a beta distribution, is below 1 / (1 − confidence) (J. Ville 1939; H. Robbins 1970; S. R. Howard et al. 2021, "Time-uniform, nonparametric,
 * nonasymptotic confidence sequences", beta-binomial mixture).
 */
export function anytimeInterval(failed: number, runs: number, confidence = 0.95): Interval {
  checkCounts(failed, runs, confidence);
  if (runs === 0) return { low: 0, high: 1 };
  const passed = runs - failed;
  const mixed = betaln(failed + 0.5, passed + 0.5) - betaln(0.5, 0.5);
  const limit = -numeric.ln(1 - confidence);
  const isOutside = (share: number): boolean => mixed - times(failed, share) - times(passed, 1 - share) >= limit;
  const estimate = failed / runs;
  return {
    low: failed === 0 ? 0 : border(0, estimate, isOutside),
    high: passed === 0 ? 1 : border(1, estimate, isOutside),
  };
}

/** count · ln(share), 0 where the count is. */
function times(count: number, share: number): number {
  return count === 0 ? 0 : count * numeric.ln(share);
}

/** Between a share outside and one inside: the last one outside, to the last bit that matters. */
function border(outside: number, inside: number, isOutside: (share: number) => boolean): number {
  let [out, into] = [outside, inside];
  for (let i = 0; i < 100 && Math.abs(out - into) > 1e-12 * into; i += 1) {
    const middle = (out + into) / 2;
    if (isOutside(middle)) out = middle;
    else into = middle;
  }
  return out;
}

/** "At most this share fails." */
export interface Claim {
  readonly atMost: number;
  readonly confidence: number;
}

/** What runs that are looked at as they come have shown of a claim. */
export type Standing = 'holds' | 'refuted' | 'open';

/** Decides a claim by the interval that stays valid under looking: once decided, it is decided with the confidence of the claim. */
export function standingOf({ atMost, confidence }: Claim, failed: number, runs: number): Standing {
  const { low, high } = anytimeInterval(failed, runs, confidence);
  if (high <= atMost) return 'holds';
  return low > atMost ? 'refuted' : 'open';
}

/** How many runs without a failure decide a claim that is looked at after each. */
export function runsToDecide(claim: Claim): number {
  let runs = 1;
  while (standingOf(claim, 0, runs) === 'open') runs *= 2;
  let below = Math.floor(runs / 2);
  while (runs - below > 1) {
    const middle = Math.floor((runs + below) / 2);
    if (standingOf(claim, 0, middle) === 'open') below = middle;
    else runs = middle;
  }
  return runs;
}

/** A. Wald's sequential test of two shares (1945, Annals of Mathematical Statistics 16): `good` is to be taken for good, `bad` for bad. */
export interface SequentialTest {
  readonly good: number;
  readonly bad: number;
  /** Probability at most (nearly) with which a share of `good` is refused, and one of `bad` is taken. */
  readonly refused: number;
  readonly taken: number;
}

/** What the likelihood ratio of the two shares says: beyond Wald's limits the test is over. */
export function sequentialVerdict({ good, bad, refused, taken }: SequentialTest, failed: number, runs: number): 'good' | 'bad' | 'open' {
  const ratio = times(failed, bad) - times(failed, good) + times(runs - failed, 1 - bad) - times(runs - failed, 1 - good);
  if (ratio >= numeric.ln((1 - taken) / refused)) return 'bad';
  return ratio <= numeric.ln(taken / (1 - refused)) ? 'good' : 'open';
}

/** Expected number of runs until the test is over if the true share is `good`, or `bad` (Wald's approximation, which leaves the overshoot out). */
export function expectedRuns({ good, bad, refused, taken }: SequentialTest): { readonly ifGood: number; readonly ifBad: number } {
  const [upper, lower] = [numeric.ln((1 - taken) / refused), numeric.ln(taken / (1 - refused))];
  const drift = (share: number): number => share * numeric.ln(bad / good) + (1 - share) * numeric.ln((1 - bad) / (1 - good));
  return {
    ifGood: (refused * upper + (1 - refused) * lower) / drift(good),
    ifBad: ((1 - taken) * upper + taken * lower) / drift(bad),
  };
}
