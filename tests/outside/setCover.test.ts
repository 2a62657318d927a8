import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Coverer, leastCover, quickestFirst } from '@/core/design';

const elements = ['a', 'b', 'c', 'd', 'e', 'f', 'g'];
const instance = fc.array(fc.record({ holds: fc.subarray(elements), cost: fc.integer({ min: 1, max: 5 }) }), { minLength: 1, maxLength: 9 });

/** The least cost of any choice of sets that covers all, each choice looked at. */
function bruteForce(sets: readonly Coverer[]): number {
  const all = new Set(sets.flatMap(({ holds }) => [...holds]));
  let least = Number.POSITIVE_INFINITY;
  for (let choice = 0; choice < 2 ** sets.length; choice += 1) {
    const chosen = sets.filter((_, index) => (choice >> index) % 2 === 1);
    const held = new Set(chosen.flatMap(({ holds }) => [...holds]));
    if (held.size === all.size)
      least = Math.min(
        least,
        chosen.reduce((sum, one) => sum + one.cost, 0),
      );
  }
  return least;
}

describe('the least cover', () => {
  it('costs as little as the best of all choices, and covers all', () => {
    fc.assert(
      fc.property(instance, (raw) => {
        const sets = raw.map(({ holds, cost }) => ({ holds: new Set(holds), cost }));
        const chosen = leastCover(sets);
        expect(new Set(chosen.flatMap((index) => [...sets[index]!.holds]))).toEqual(new Set(sets.flatMap(({ holds }) => [...holds])));
        expect(chosen.reduce((sum, index) => sum + sets[index]!.cost, 0)).toBeCloseTo(bruteForce(sets), 9);
        expect([...quickestFirst(sets, chosen)].sort((a, b) => a - b)).toEqual(chosen);
      }),
      { numRuns: 400 },
    );
  });

  it('is the optimum of the instance on which greedy choices are worst (V. Chvátal 1979: sets that double, against two that halve them)', () => {
    const names = (from: number, count: number, row: number): string[] => Array.from({ length: count }, (_, index) => `${row} ${from + index}`);
    const doubling = [1, 2, 4, 8].map((count) => ({ holds: new Set([...names(count, count, 0), ...names(count, count, 1)]), cost: 1 }));
    const rows = [0, 1].map((row) => ({ holds: new Set(names(1, 15, row)), cost: 1 }));
    expect(leastCover([...doubling, ...rows])).toEqual([4, 5]);
  });
});
