/**
 * Statistics of campaigns against published figures and against what they promise.
 * Sources: Clopper & Pearson (1934), Wilks (1941), Hanley & Lippman-Hand (1983), Wald (1945), NIST/SEMATECH e-Handbook 7.2.6.2, Ishigami & Homma (1990).
 */
import { describe, expect, it } from 'vitest';
import {
  anytimeInterval,
  exactInterval,
  expectedRuns,
  firstOrderIndex,
  lowerBound,
  quantile,
  rankCorrelation,
  ranks,
  runsForTolerance,
  runsNeeded,
  runsToDecide,
  sequentialVerdict,
  sorted,
  standingOf,
  toleranceBounds,
  upperBound,
} from '@/core/statistics';

/** Mulberry32 (Ettinger, public domain; from memory). */
function generator(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
  };
}

/** Probability of at most k of n, summed up term by term; by logarithms, since the terms span hundreds of decades. */
function atMost(k: number, n: number, p: number): number {
  let term = n * Math.log1p(-p);
  let sum = Math.exp(term);
  for (let i = 0; i < k; i += 1) {
    term += Math.log((n - i) / (i + 1)) + Math.log(p) - Math.log1p(-p);
    sum += Math.exp(term);
  }
  return sum;
}

describe('the exact interval of a share', () => {
  // Printed in many tables of the method; from memory.
  it.each([
    [0, 10, 0, 0.3085],
    [1, 10, 0.0025, 0.445],
    [10, 100, 0.049, 0.1762],
    [50, 100, 0.3983, 0.6017],
    [10, 10, 0.6915, 1],
    [37, 500, 0.0526, 0.1006],
  ])('of %i failures in %i runs is that of the tables', (failed, runs, low, high) => {
    const found = exactInterval(failed, runs);
    expect(found.low).toBeCloseTo(low, 4);
    expect(found.high).toBeCloseTo(high, 4);
  });

  it('leaves out half of the rest at either end, by the sums of the binomial distribution themselves', () => {
    for (const runs of [1, 7, 59, 300])
      for (let failed = 0; failed <= runs; failed += Math.ceil(runs / 9)) {
        const { low, high } = exactInterval(failed, runs, 0.9);
        if (failed > 0) expect(1 - atMost(failed - 1, runs, low)).toBeCloseTo(0.05, 9);
        if (failed < runs) expect(atMost(failed, runs, high)).toBeCloseTo(0.05, 9);
        if (failed < runs) expect(atMost(failed, runs, upperBound(failed, runs, 0.9))).toBeCloseTo(0.1, 9);
        if (failed > 0) expect(1 - atMost(failed - 1, runs, lowerBound(failed, runs, 0.9))).toBeCloseTo(0.1, 9);
      }
  });

  it('refuses counts that cannot be', () => {
    expect(() => exactInterval(3, 2)).toThrow(RangeError);
    expect(() => exactInterval(1, 2, 1)).toThrow(RangeError);
  });
});

describe('how many runs a claim needs', () => {
  it('is 59 for at most 5 % at 95 %, and about 3 / share for small shares', () => {
    expect(runsNeeded(0.05)).toBe(59);
    expect(runsNeeded(0.01)).toBe(299);
    expect(runsNeeded(0.1, 0.99)).toBe(44);
    for (const share of [0.01, 0.001, 0.0001]) {
      const runs = runsNeeded(share) ?? 0;
      expect(runs * share).toBeGreaterThan(2.95);
      expect(runs * share).toBeLessThanOrEqual(3);
      // One fewer would not do.
      expect(upperBound(0, runs, 0.95)).toBeLessThanOrEqual(share);
      expect(upperBound(0, runs - 1, 0.95)).toBeGreaterThan(share);
    }
  });

  it('grows with the failures that were seen: 93 and 124 runs with one and two', () => {
    expect([1, 2].map((failed) => runsNeeded(0.05, 0.95, failed))).toEqual([93, 124]);
    expect(runsNeeded(1e-12)).toBeUndefined();
  });

  it('is 59 for one tolerance bound and 93 for two', () => {
    expect(runsForTolerance(0.95, 0.95, 1)).toBe(59);
    expect(runsForTolerance(0.95, 0.95, 2)).toBe(93);
    expect(runsForTolerance(0.95, 0.99, 2)).toBe(130);
    // By the formulas of the paper: 1 − pⁿ, and 1 − pⁿ − n (1 − p) pⁿ⁻¹.
    for (const [p, c] of [
      [0.9, 0.95],
      [0.99, 0.95],
      [0.95, 0.9],
    ] as const) {
      const one = runsForTolerance(p, c, 1);
      expect(1 - p ** one).toBeGreaterThanOrEqual(c);
      expect(1 - p ** (one - 1)).toBeLessThan(c);
      const two = runsForTolerance(p, c, 2);
      const held = (n: number): number => 1 - p ** n - n * (1 - p) * p ** (n - 1);
      expect(held(two)).toBeGreaterThanOrEqual(c);
      expect(held(two - 1)).toBeLessThan(c);
    }
  });
});

describe('the interval that stays valid under looking', () => {
  const simulations = 2000;
  const looks = 200;

  /** In how many of the simulations the true share was inside at every look. */
  function kept(share: number, intervalOf: IntervalOf): number {
    const next = generator(Math.round(share * 1e6));
    let always = 0;
    for (let i = 0; i < simulations; i += 1) {
      let failed = 0;
      let isInside = true;
      for (let runs = 1; runs <= looks && isInside; runs += 1) {
        failed += next() < share ? 1 : 0;
        const { low, high } = intervalOf(failed, runs);
        isInside = low <= share && share <= high;
      }
      always += isInside ? 1 : 0;
    }
    return always / simulations;
  }

  type IntervalOf = (failed: number, runs: number) => { low: number; high: number };

  function remembered(intervalOf: IntervalOf): IntervalOf {
    const known = new Map<number, ReturnType<IntervalOf>>();
    return (failed, runs) => {
      const key = runs * 1000 + failed;
      const found = known.get(key) ?? intervalOf(failed, runs);
      known.set(key, found);
      return found;
    };
  }

  it.each([0.02, 0.1, 0.5])('holds a share of %d at every one of 200 looks as often as it says', (share) => {
    expect(kept(share, remembered(anytimeInterval))).toBeGreaterThanOrEqual(0.95);
  });

  it('is needed: the interval for a number of runs laid down before does not stay valid', () => {
    expect(kept(0.1, remembered(exactInterval))).toBeLessThan(0.9);
  });

  it('lies around the exact interval and shrinks like it', () => {
    for (const runs of [50, 500, 5000]) {
      const failed = runs / 10;
      const [own, exact] = [anytimeInterval(failed, runs), exactInterval(failed, runs)];
      expect(own.low).toBeLessThan(exact.low);
      expect(own.high).toBeGreaterThan(exact.high);
      expect((own.high - own.low) / (exact.high - exact.low)).toBeLessThan(2.2);
    }
    expect(anytimeInterval(0, 0)).toEqual({ low: 0, high: 1 });
    expect(anytimeInterval(5, 5).high).toBe(1);
  });

  it('decides a claim, and says before how many runs that takes without a failure', () => {
    const claim = { atMost: 0.01, confidence: 0.95 };
    const runs = runsToDecide(claim);
    expect(standingOf(claim, 0, runs)).toBe('holds');
    expect(standingOf(claim, 0, runs - 1)).toBe('open');
    expect(runs).toBeGreaterThan(runsNeeded(0.01) ?? 0);
    expect(standingOf(claim, 30, 200)).toBe('refuted');
  });
});

describe("Wald's sequential test", () => {
  const test = { good: 0.01, bad: 0.05, refused: 0.05, taken: 0.05 };

  function play(share: number): { mean: number; bad: number } {
    const next = generator(7);
    let [total, bad] = [0, 0];
    for (let i = 0; i < 2000; i += 1) {
      let failed = 0;
      for (let runs = 1; ; runs += 1) {
        failed += next() < share ? 1 : 0;
        const verdict = sequentialVerdict(test, failed, runs);
        if (verdict === 'open') continue;
        total += runs;
        bad += verdict === 'bad' ? 1 : 0;
        break;
      }
    }
    return { mean: total / 2000, bad: bad / 2000 };
  }

  it('takes about as many runs as his formula says, and errs no more often than asked for', () => {
    const { ifGood, ifBad } = expectedRuns(test);
    const [good, bad] = [play(test.good), play(test.bad)];
    // His formula leaves out by how much the limits are passed; the mean lies somewhat above.
    expect(good.mean / ifGood).toBeGreaterThan(0.97);
    expect(good.mean / ifGood).toBeLessThan(1.25);
    expect(bad.mean / ifBad).toBeGreaterThan(0.97);
    expect(bad.mean / ifBad).toBeLessThan(1.25);
    expect(good.bad).toBeLessThanOrEqual(0.055);
    expect(1 - bad.bad).toBeLessThanOrEqual(0.055);
  });
});

describe('quantiles and tolerance bounds', () => {
  it('give the 90th percentile of the handbook', () => {
    // Twelve gauge readings of 7.2.6.2; from memory.
    const readings = [95.1772, 95.1567, 95.1937, 95.1959, 95.1442, 95.061, 95.1591, 95.1195, 95.1065, 95.0925, 95.199, 95.1682];
    expect(quantile(sorted(readings), 0.9)).toBeCloseTo(95.1981, 4);
    expect(quantile(sorted([3, 1, Number.NaN, 2]), 0.5)).toBe(2);
    expect(quantile(sorted([]), 0.5)).toBeNaN();
  });

  it('hold 95 % of the values in at least 95 % of samples, between and on one side', () => {
    const next = generator(11);
    // A lopsided distribution, since none is supposed.
    const draw = (): number => -Math.log(1 - next());
    const heldIn = (low: number, high: number): number => Math.exp(-Math.max(0, low)) - Math.exp(-high);
    let [between, below] = [0, 0];
    for (let i = 0; i < 1000; i += 1) {
      const ordered = sorted(Array.from({ length: 200 }, draw));
      const two = toleranceBounds(ordered, 0.95, 0.95, 'between');
      const one = toleranceBounds(ordered, 0.95, 0.95, 'below');
      between += two && heldIn(two.low, two.high) >= 0.95 ? 1 : 0;
      below += one && heldIn(0, one.high) >= 0.95 ? 1 : 0;
    }
    // Three standard deviations of 1,000 samples.
    expect(between / 1000).toBeGreaterThan(0.93);
    expect(below / 1000).toBeGreaterThan(0.93);
    const few = sorted(Array.from({ length: 58 }, (_, i) => i));
    expect(toleranceBounds(few, 0.95, 0.95, 'above')).toBeUndefined();
  });
});

describe('influence', () => {
  it('gives the rank correlation of the textbook example', () => {
    // Intelligence and hours of television of ten people, ρ = −29/165; widely printed, from memory.
    const a = [106, 100, 86, 101, 99, 103, 97, 113, 112, 110];
    const b = [7, 27, 2, 50, 28, 29, 20, 12, 6, 17];
    expect(rankCorrelation(a, b)?.value).toBeCloseTo(-29 / 165, 12);
    expect(ranks([5, 1, 5, 3])).toEqual([3.5, 1, 3.5, 2]);
    expect(rankCorrelation([1, 2, 3, 4], [1, 1, 1, 1])).toBeUndefined();
    expect(rankCorrelation([1, 2, 3, 4], [8, 6, 4, 2])).toEqual({ value: -1, low: -1, high: -1 });
  });

  it('has an interval that holds the correlation as often as it says', () => {
    const next = generator(5);
    const normal = (): number => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next());
    const r = 0.6;
    // Of a normal pair, the rank correlation is 6/π · asin(r/2) (K. Pearson 1907).
    const wanted = (6 / Math.PI) * Math.asin(r / 2);
    let held = 0;
    for (let i = 0; i < 1000; i += 1) {
      const x = Array.from({ length: 100 }, normal);
      const y = x.map((one) => r * one + Math.sqrt(1 - r * r) * normal());
      const found = rankCorrelation(x, y);
      held += found && found.low <= wanted && wanted <= found.high ? 1 : 0;
    }
    expect(held / 1000).toBeGreaterThan(0.93);
  });

  it('gives the first-order indices of the Ishigami function: 0.3139, 0.4424 and 0', () => {
    const next = generator(3);
    const points = Array.from({ length: 20_000 }, () => [next(), next(), next()].map((u) => (2 * u - 1) * Math.PI));
    const y = points.map(([a, b, c]) => Math.sin(a!) + 7 * Math.sin(b!) ** 2 + 0.1 * c! ** 4 * Math.sin(a!));
    const index = (i: number): number =>
      firstOrderIndex(
        points.map((point) => point[i]!),
        y,
      ) ?? Number.NaN;
    expect(index(0)).toBeCloseTo(0.3139, 1.7);
    expect(index(1)).toBeCloseTo(0.4424, 1.7);
    expect(index(2)).toBeLessThan(0.01);
    expect(firstOrderIndex([1, 2, 3], [1, 2, 3])).toBeUndefined();
  });

  it('groups a quantity of few values by them, and says nothing of one that does not vary', () => {
    const x = Array.from({ length: 90 }, (_, i) => i % 3);
    expect(
      firstOrderIndex(
        x,
        x.map((one) => one * one),
      ),
    ).toBeCloseTo(1, 12);
    expect(
      firstOrderIndex(
        x.map(() => 4),
        x,
      ),
    ).toBeUndefined();
  });
});
