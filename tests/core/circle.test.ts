import preciseCos from '@stdlib/math-base-special-cos';
import preciseSin from '@stdlib/math-base-special-sin';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { numeric } from '@/core/numeric';

const angles = fc.oneof(
  { weight: 4, arbitrary: fc.double({ min: -2e6, max: 2e6, noNaN: true }) },
  { weight: 2, arbitrary: fc.double({ min: -10, max: 10, noNaN: true }) },
  // Around whole and half numbers of quarters of a turn, where branches meet and digits cancel.
  {
    weight: 4,
    arbitrary: fc
      .tuple(fc.integer({ min: -2_100_000, max: 2_100_000 }), fc.double({ min: -1, max: 1, noNaN: true }), fc.integer({ min: 0, max: 52 }))
      .map(([eighths, part, power]) => (eighths * Math.PI) / 4 + part * 2 ** -power),
  },
  { weight: 1, arbitrary: fc.double() },
);

it('sine and cosine have the bits of the general functions, whatever the angle', () => {
  fc.assert(
    fc.property(angles, (x) => {
      expect(numeric.sin(x)).toBe(preciseSin(x));
      expect(numeric.cos(x)).toBe(preciseCos(x));
    }),
    { numRuns: 40_000, examples: [[0], [-0], [7.0685834705770345], [Math.PI], [1e-300], [Number.POSITIVE_INFINITY], [1647099.3291652855]] },
  );
});
