import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gap, wholeScale } from '@/ui/model/drawing/wholeScale';

describe('drawings that are to be seen as a whole', () => {
  const room = { width: 1000, height: 600 };

  it('keep their size where there is room', () => {
    expect(wholeScale([{ width: 400, height: 300 }], room, 0)).toBe(1);
    expect(wholeScale([], room, 30)).toBe(1);
  });

  it('shrink to the side that is short', () => {
    expect(wholeScale([{ width: 2000, height: 300 }], room, 0)).toBeCloseTo(0.5, 3);
    expect(wholeScale([{ width: 400, height: 1200 }], room, 0)).toBeCloseTo(0.5, 3);
    expect(wholeScale([{ width: 400, height: 1000 }], room, 100)).toBeCloseTo(0.5, 3);
  });

  it('stand side by side where that leaves them larger', () => {
    expect(
      wholeScale(
        [0, 1].map(() => ({ width: (1000 - gap) / 2, height: 600 }), room),
        room,
        0,
      ),
    ).toBe(1);
    // Two in a row would be half as wide; under each other they are 292 of 300 high.
    expect(
      wholeScale(
        [0, 1].map(() => ({ width: 1000, height: 300 })),
        room,
        0,
      ),
    ).toBeCloseTo((600 - gap) / 600, 3);
  });

  it('never stand out of the room, as wide and high as they may be', () => {
    const extent = fc.record({ width: fc.integer({ min: 1, max: 5000 }), height: fc.integer({ min: 1, max: 5000 }) });
    fc.assert(
      fc.property(fc.array(extent, { minLength: 1, maxLength: 6 }), (drawings) => {
        const scale = wholeScale(drawings, room, 0);
        expect(scale).toBeGreaterThan(0);
        for (const { width, height } of drawings) expect([scale * width <= room.width, scale * height <= room.height]).toEqual([true, true]);
      }),
    );
  });
});
