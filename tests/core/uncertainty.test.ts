import fc from 'fast-check';
import { inverse, Matrix } from 'ml-matrix';
import { describe, expect, it } from 'vitest';
import { uncertainty } from '@/core/fit/uncertainty';

const rows = 40;
const value = fc.double({ min: -3, max: 3, noNaN: true });
const column = fc.array(value, { minLength: rows, maxLength: rows });

/** Two-sided 95 % point of Student's distribution with 38 degrees of freedom (tables; from memory). */
const t38 = 2.0244;

describe('how well parameters are known', () => {
  it('is what the normal equations say where these can be solved', () => {
    fc.assert(
      fc.property(column, column, column, (a, b, rest) => {
        const gram = new Matrix([a, b].map((one) => [a, b].map((other) => one.reduce((sum, x, row) => sum + x * (other[row] as number), 0))));
        const determinant = gram.get(0, 0) * gram.get(1, 1) - gram.get(0, 1) ** 2;
        fc.pre(determinant > 1e-3 * gram.get(0, 0) * gram.get(1, 1) && gram.get(0, 0) > 1e-6 && gram.get(1, 1) > 1e-6);
        const variance = rest.reduce((sum, x) => sum + x * x, 0) / (rows - 2);
        const covariance = inverse(gram);
        const { halves } = uncertainty(rest, [a, b]);
        for (const index of [0, 1]) {
          const wanted = t38 * Math.sqrt(variance * covariance.get(index, index));
          // To the last figure of the table.
          expect(Math.abs((halves[index] as number) - wanted)).toBeLessThanOrEqual(1e-4 * wanted);
        }
      }),
    );
  });

  it('takes nothing away from one parameter because another moves nothing, or because two others move only together', () => {
    fc.assert(
      fc.property(column, column, column, fc.double({ min: 0.5, max: 4, noNaN: true }), (a, b, rest, factor) => {
        fc.pre(apart(a, b));
        const alone = uncertainty(rest, [a]).halves[0] as number;
        const beside = uncertainty(rest, [a, a.map(() => 0)]).halves;
        // One degree of freedom less, no more.
        expect(beside[1]).toBeUndefined();
        expect((beside[0] as number) / Math.max(alone, 1e-300)).toBeCloseTo(alone === 0 ? 0 : 1, 1);
        const { halves, entangled } = uncertainty(rest, [a, b, b.map((x) => factor * x)]);
        expect(halves[0]).toBeGreaterThanOrEqual(0);
        expect(halves.slice(1)).toEqual([undefined, undefined]);
        expect(entangled.map((pair) => [pair.a, pair.b])).toEqual([[1, 2]]);
      }),
    );
  });

  it('of nothing that moves is unknown', () => {
    expect(uncertainty([1, 2, 3], [[0, 0, 0]])).toEqual({ halves: [undefined], entangled: [] });
    expect(uncertainty([1], [[1]])).toEqual({ halves: [undefined], entangled: [] });
  });
});

/** Whether two columns are far from being one. */
function apart(a: readonly number[], b: readonly number[]): boolean {
  const product = (x: readonly number[], y: readonly number[]): number => x.reduce((sum, one, row) => sum + one * (y[row] as number), 0);
  return product(a, a) > 1e-2 && product(b, b) > 1e-2 && product(a, b) ** 2 < 0.9 * product(a, a) * product(b, b);
}
