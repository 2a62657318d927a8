/**
 * Designs of campaigns against what they were published for.
 * Sources: Joe & Kuo (2008) for direction numbers, Sobol' (1967), McKay, Beckman & Conover (1979), Cohen et al. (1997) and comparisons of pairwise sizes published since
 * (common practice; from memory), distributions by their closed forms.
 */
import { describe, expect, it } from 'vitest';
import {
  coveringArray,
  type Design,
  type Distribution,
  latinPoints,
  misfit,
  mostSobolDimensions,
  pointsOf,
  type Quantity,
  randomPoints,
  sobolPoints,
  valueAt,
} from '@/core/variation';

describe("Sobol' points", () => {
  it('begin as published for the first three dimensions', () => {
    expect(sobolPoints(8, 3).map((point) => [...point])).toEqual([
      [0, 0, 0],
      [0.5, 0.5, 0.5],
      [0.75, 0.25, 0.25],
      [0.25, 0.75, 0.75],
      [0.375, 0.375, 0.625],
      [0.875, 0.875, 0.125],
      [0.625, 0.125, 0.875],
      [0.125, 0.625, 0.375],
    ]);
  });

  it('put one of each 2ᵏ successive points into each of 2ᵏ strata, in every dimension, shifted or not', () => {
    const shift = Array.from({ length: mostSobolDimensions }, (_, d) => (d * 2654435761) >>> 0);
    for (const points of [sobolPoints(1024, mostSobolDimensions), sobolPoints(1024, mostSobolDimensions, shift)])
      for (let d = 0; d < mostSobolDimensions; d += 1)
        for (const k of [2, 5, 10]) {
          const size = 2 ** k;
          for (let from = 0; from + size <= 1024; from += size)
            expect(new Set(points.slice(from, from + size).map((point) => Math.floor(point[d]! * size))).size).toBe(size);
        }
  });

  it('fill every elementary square of the first two dimensions', () => {
    const points = sobolPoints(256, 2);
    for (let a = 0; a <= 8; a += 1) {
      const [across, up] = [2 ** a, 2 ** (8 - a)];
      expect(new Set(points.map(([x, y]) => Math.floor(x! * across) * up + Math.floor(y! * up))).size).toBe(256);
    }
  });

  it('integrate a smooth function of many dimensions far better than random ones', () => {
    // ∏ (1 + (x − ½) / 2), whose mean is 1.
    const error = (points: readonly Float64Array[]): number =>
      Math.abs(points.reduce((sum, point) => sum + point.reduce((product, x) => product * (1 + (x - 0.5) / 2), 1), 0) / points.length - 1);
    const random = [1, 2, 3, 4, 5]
      .map((seed) => randomPoints(10, seed))
      .map((next) => error(Array.from({ length: 4096 }, next)))
      .sort((a, b) => a - b)[2]!;
    expect(error(sobolPoints(4096, 10))).toBeLessThan(random / 3);
  });
});

describe('Latin hypercubes', () => {
  it('have one point in each stratum of each dimension', () => {
    for (const count of [1, 7, 100]) {
      const points = latinPoints(count, 4, 9);
      for (let d = 0; d < 4; d += 1) expect(new Set(points.map((point) => Math.floor(point[d]! * count))).size).toBe(count);
    }
  });

  it('leave the quantities before a further one as they were', () => {
    const [few, more] = [latinPoints(20, 2, 5), latinPoints(20, 3, 5)];
    expect(more.map((point) => [...point].slice(0, 2))).toEqual(few.map((point) => [...point]));
  });
});

describe('covering arrays', () => {
  function tuplesMissing(rows: readonly (readonly number[])[], levels: readonly number[], strength: number): number {
    const columns = (count: number, from = 0): number[][] =>
      count === 0 ? [[]] : levels.slice(from).flatMap((_, i) => columns(count - 1, from + i + 1).map((rest) => [from + i, ...rest]));
    return columns(strength).reduce((missing, group) => {
      const wanted = group.reduce((product, column) => product * levels[column]!, 1);
      return missing + wanted - new Set(rows.map((row) => group.map((column) => row[column]).join())).size;
    }, 0);
  }
  const levels = (...parts: readonly (readonly [count: number, levels: number])[]): number[] =>
    parts.flatMap(([count, one]) => new Array<number>(count).fill(one));

  it.each([
    ['3⁴', levels([4, 3]), 2, 9],
    // Best sizes in common tables of covering arrays (C. J. Colbourn; D. M. Cohen et al. 1997), from memory; of 10²⁰ 180 is published.
    ['3¹³', levels([13, 3]), 2, 15],
    ['4¹⁵3¹⁷2²⁹', levels([15, 4], [17, 3], [29, 2]), 2, 29],
    ['10²⁰', levels([20, 10]), 2, 186],
    ['2¹⁰⁰', levels([100, 2]), 2, 10],
    // 2q² − q rows for q² + q + 1 columns, of a field of four elements; and one that has more levels than any field known here.
    ['4²¹', levels([21, 4]), 2, 28],
    ['17³', levels([3, 17]), 2, 289],
    ['2¹⁰ in threes', levels([10, 2]), 3, 20],
    ['mixed', [4, 3, 3, 2, 2, 5], 2, 20],
    ['one column', [4], 1, 4],
  ])('of %s hold every tuple', (_, counts, strength, most) => {
    const rows = coveringArray(counts, strength);
    expect(tuplesMissing(rows, counts, strength)).toBe(0);
    expect(rows.length).toBeLessThanOrEqual(most);
    expect(rows.every((row) => row.every((level, column) => level < counts[column]!))).toBe(true);
    expect(coveringArray(counts, strength)).toEqual(rows);
  });
});

describe('distributions', () => {
  const samples = (distribution: Distribution): number[] => Array.from({ length: 20_000 }, (_, i) => valueAt(distribution, (i + 0.5) / 20_000));
  const mean = (values: readonly number[]): number => values.reduce((sum, one) => sum + one, 0) / values.length;

  it('have the moments of their closed forms', () => {
    expect(mean(samples({ k: 'uniform', low: 2, high: 6 }))).toBeCloseTo(4, 9);
    const normal = samples({ k: 'normal', mean: 3, deviation: 0.5 });
    expect(mean(normal)).toBeCloseTo(3, 6);
    expect(mean(normal.map((one) => (one - 3) ** 2))).toBeCloseTo(0.25, 3);
    // (low + mode + high) / 3, and (a² + b² + c² − ab − ac − bc) / 18.
    const triangle = samples({ k: 'triangular', low: 0, mode: 1, high: 5 });
    expect(mean(triangle)).toBeCloseTo(2, 5);
    expect(mean(triangle.map((one) => (one - 2) ** 2))).toBeCloseTo((25 + 1 - 5) / 18, 3);
    const lognormal = { k: 'lognormal', median: 2, deviation: 0.25 } as const;
    expect(mean(samples(lognormal))).toBeCloseTo(2 * Math.exp(0.25 ** 2 / 2), 3);
    expect(valueAt(lognormal, 0.5)).toBeCloseTo(2, 12);
  });

  it('keep within the limits that cut them off, with the shape they have there', () => {
    const cut = samples({ k: 'normal', mean: 1, deviation: 0.1, within: [0.9, 1.2] });
    expect(Math.min(...cut)).toBeGreaterThanOrEqual(0.9);
    expect(Math.max(...cut)).toBeLessThanOrEqual(1.2);
    // Of N(0, 1) between −1 and 2, the share below 0 is (Φ(0) − Φ(−1)) / (Φ(2) − Φ(−1)) = 0.3413 / 0.8186.
    expect(cut.filter((one) => one < 1).length / cut.length).toBeCloseTo(0.3413447 / 0.8185946, 3);
  });
});

describe('designs', () => {
  const level = (name: string, ...values: (number | string)[]): Quantity => ({ name, spread: { k: 'levels', levels: values } });
  const scatter = (name: string): Quantity => ({ name, spread: { k: 'scatter', distribution: { k: 'uniform', low: 0, high: 10 } } });

  it('combine levels as they say', () => {
    const two = [level('a', 1, 2), level('plant', 'coarse', 'fine')];
    expect(pointsOf({ k: 'grid' }, two, 0)).toEqual([
      [1, 'coarse'],
      [1, 'fine'],
      [2, 'coarse'],
      [2, 'fine'],
    ]);
    expect(pointsOf({ k: 'together' }, two, 0)).toEqual([
      [1, 'coarse'],
      [2, 'fine'],
    ]);
    expect(pointsOf({ k: 'grid' }, [], 0)).toEqual([[]]);
    const drawn = pointsOf({ k: 'latin hypercube', runs: 8 }, [level('a', 1, 2), scatter('x')], 4);
    expect(drawn.filter(([a]) => a === 1)).toHaveLength(4);
    expect(drawn).toEqual(pointsOf({ k: 'latin hypercube', runs: 8 }, [level('a', 1, 2), scatter('x')], 4));
    expect(drawn).not.toEqual(pointsOf({ k: 'latin hypercube', runs: 8 }, [level('a', 1, 2), scatter('x')], 5));
  });

  it.each<[string, Design, Quantity[], RegExp]>([
    ['a grid of what scatters', { k: 'grid' }, [scatter('x')], /x scatters; a grid design takes levels/],
    ['unequal levels together', { k: 'together' }, [level('a', 1), level('b', 1, 2)], /1, 2 levels/],
    ['too strong a covering', { k: 'covering', strength: 3 }, [level('a', 1), level('b', 1, 2)], /strength of 3 needs 3 quantities; there are 2/],
    ['too many dimensions', { k: 'sobol', runs: 8 }, Array.from({ length: 22 }, (_, i) => scatter(`x${i}`)), /at most 21/],
    ['too many points', { k: 'grid' }, Array.from({ length: 7 }, (_, i) => level(`x${i}`, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10)), /10,000,000 points/],
  ])('refuse %s in words', (_, design, quantities, message) => {
    expect(misfit(design, quantities)?.message).toMatch(message);
    expect(() => pointsOf(design, quantities, 0)).toThrow(message);
  });
});
