import { describe, expect, it } from 'vitest';
import { LocalSearch } from '@/core/design';
import { Stream } from '@/core/numeric';

/** Values of a function at points of [-5, 5]ⁿ, given as numbers between 0 and 1. */
const spread = (unit: readonly number[]): number[] => unit.map((one) => 10 * one - 5);

/** @returns the least value met, and the number of values asked for */
function searched(of: (x: readonly number[]) => number, size: number, seed: number, most: number, until: number): { least: number; asked: number } {
  const search = new LocalSearch(
    Array.from({ length: size }, (_, index) => 0.2 + 0.05 * index),
    0.2,
    new Stream(seed),
  );
  let [least, asked] = [Number.POSITIVE_INFINITY, 0];
  while (asked < most && least > until) {
    const value = of(spread(search.ask()));
    search.tell(value);
    least = Math.min(least, value);
    asked += 1;
  }
  return { least, asked };
}

/** Test functions of N. Hansen and A. Ostermeier, Completely Derandomized Self-Adaptation in Evolution Strategies, 2001, table 1; their minima, all 0, lie at the origin or at (1, …, 1). */
const functions: readonly (readonly [string, (x: readonly number[]) => number])[] = [
  ['sphere', (x) => x.reduce((sum, one) => sum + one * one, 0)],
  ['ellipsoid, axes 1 : 1000', (x) => x.reduce((sum, one, index) => sum + 1000 ** ((2 * index) / (x.length - 1)) * one * one, 0)],
  ['sum of different powers', (x) => x.reduce((sum, one, index) => sum + Math.abs(one) ** (2 + (10 * index) / (x.length - 1)), 0)],
  [
    'ellipsoid that is turned: no axis is its own',
    (x) => {
      const partial = x.map((_, index) => x.slice(0, index + 1).reduce((a, b) => a + b, 0));
      return partial.reduce((sum, one) => sum + one * one, 0);
    },
  ],
  [
    'Rosenbrock',
    (x) => x.slice(1).reduce((sum, next, index) => sum + 100 * (next - (x[index] as number) ** 2) ** 2 + (1 - (x[index] as number)) ** 2, 0),
  ],
];

describe('the local method of the search for cases', () => {
  it.each(functions)('comes to the least value of the %s function', (_, of) => {
    // That many values are common for five variables (the paper’s figures are for 5 and 20, to 10⁻¹⁰; the bound here is from memory, and generous).
    for (const seed of [1, 2, 3]) expect(searched(of, 5, seed, 6_000, 1e-8).least).toBeLessThanOrEqual(1e-8);
  });

  it('comes to a border where the least value lies beyond it, and says when it is over', () => {
    const search = new LocalSearch([0.5, 0.5, 0.5], 0.1, new Stream(4));
    const met: number[][] = [];
    while (!search.isOver && met.length < 5_000) {
      const point = [...search.ask()];
      met.push(point);
      search.tell(point.reduce((sum, one) => sum + one, 0));
    }
    expect(met.length).toBeLessThan(5_000);
    expect(Math.min(...met.map((one) => one.reduce((sum, each) => sum + each, 0)))).toBe(0);
    expect(met.flat().every((one) => one >= 0 && one <= 1)).toBe(true);
  });

  it('asks the same for the same seed', () => {
    const asked = (): number[] => {
      const search = new LocalSearch([0.4, 0.6], 0.2, new Stream(9));
      return Array.from({ length: 60 }, () => {
        const [a = 0, b = 0] = search.ask();
        search.tell(a * a + b);
        return a - b;
      });
    };
    expect(asked()).toEqual(asked());
  });
});
