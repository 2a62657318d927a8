import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compareTraces, drawnPair, signalOf, valueAt } from '@/core/compare';
import type { Column, Trace } from '@/core/trace';

const none = { time: new Float64Array(), mark: new Int32Array(), entered: new Uint8Array() };
function traceOf(time: readonly number[] | Float64Array, data: readonly number[] | Float64Array, between: Column['between'] = 'held'): Trace {
  const column: Column = { name: 'x', slot: 0, base: 0, between, type: 'LREAL', unit: 'm', data: Float64Array.from(data) };
  return { bases: [Float64Array.from(time)], columns: [column], marks: none, from: time[0]!, until: time.at(-1)! };
}
const exact = { absolute: 0.01, relative: 0, ripple: 0, turns: {} };
const day = 86_400;

describe('what is short in a long trace is seen', () => {
  it.each(['held', 'straight'] as const)('a %s signal that is wrong for 20 s in a day', (between) => {
    const time = Float64Array.from({ length: day + 1 }, (_, i) => i);
    const wrong = time.map((t) => (t >= 30_011 && t < 30_031 ? 5 : 0));
    const found = compareTraces(
      traceOf(
        time,
        time.map(() => 0),
        between,
      ),
      traceOf(time, wrong, between),
      exact,
    )!;
    expect(found.signals[0]).toMatchObject({ agrees: false, largest: 5, largestAt: 30_011 });
    expect(found.signals[0]!.parts).toBeCloseTo(between === 'held' ? 30_011 : 30_010.002, 6);
    // ∫ of the square: 20 s of 25; where it runs straight a third of it in the second before and the one after, less the second without a row of 5.
    expect(found.signals[0]!.rms).toBeCloseTo(Math.sqrt((between === 'held' ? 500 : 19 * 25 + 2 * (25 / 3)) / day), 9);
  });

  it('a pulse of 1 s in 4 h, and the other way round', () => {
    const still = traceOf([0, 4 * 3600], [0, 0]);
    const pulse = traceOf([0, 7_777.25, 7_778.25, 4 * 3600], [0, 1, 0, 0]);
    for (const [one, other] of [
      [still, pulse],
      [pulse, still],
    ] as const)
      expect(compareTraces(one, other, exact)!.signals[0]).toMatchObject({ agrees: false, parts: 7_777.25, largest: 1, largestAt: 7_777.25 });
  });

  it('a value of the last instant alone, and one that is missing is no agreement', () => {
    expect(compareTraces(traceOf([0, 10], [0, 0]), traceOf([0, 10], [0, 3]), exact)!.signals[0]).toMatchObject({
      agrees: false,
      parts: 10,
      largest: 3,
    });
    const gap = compareTraces(traceOf([0, 10], [0, 0]), traceOf([0, 4, 7, 10], [0, Number.NaN, 0, 0]), exact)!.signals[0]!;
    expect(gap).toMatchObject({ agrees: true, missing: 3 });
    const nothing = compareTraces(traceOf([0, 10], [0, 0]), traceOf([0, 10], [Number.NaN, Number.NaN]), exact)!;
    expect(nothing.signals[0]!.agrees).toBe(false);
    expect(nothing.words).toContain('x cannot be compared');
  });
});

const rows = fc.array(fc.tuple(fc.integer({ min: 0, max: 12 }), fc.integer({ min: -20, max: 20 })), { minLength: 2, maxLength: 14 });
const random = fc.tuple(rows, fc.constantFrom<Column['between']>('held', 'straight')).map(([steps, between]) => {
  let t = 0;
  const time = steps.map(([step], index) => (t += index === 0 ? 0 : step / 4));
  return traceOf([...time, time.at(-1)! + 1], [...steps.map(([, value]) => value / 4), 0], between);
});
const band = fc.record({ absolute: fc.constantFrom(0, 0.3, 2), relative: fc.constantFrom(0, 0.25) });

/** Values on a fine grid and on both sides of every row: what anybody could look up. */
function looked(one: Trace, other: Trace, until: number): { t: number; a: number; b: number }[] {
  const [a, b] = [signalOf(one.columns[0]!, one), signalOf(other.columns[0]!, other)];
  const instants = [...one.bases[0]!, ...other.bases[0]!].flatMap((t) => [t - 1e-9, t]);
  for (let k = 0; k <= 150; k += 1) instants.push((until * k) / 150);
  return instants.filter((t) => t >= 0 && t <= until).map((t) => ({ t, a: valueAt(a, t), b: valueAt(b, t) }));
}

describe('figures of a comparison are those of the signals themselves', () => {
  it('largest gap, first instant outside the band, root mean square', () => {
    fc.assert(
      fc.property(random, random, band, (one, other, { absolute, relative }) => {
        const found = compareTraces(one, other, { absolute, relative, ripple: 0, turns: {} });
        if (!found) return;
        const signal = found.signals[0]!;
        const points = looked(one, other, found.until);
        const apart = ({ a, b }: { a: number; b: number }): number => Math.abs(b - a) - absolute - relative * Math.abs(a);
        const most = Math.max(...points.map(({ a, b }) => Math.abs(b - a)));
        expect(signal.largest).toBeGreaterThanOrEqual(most - 1e-6);
        expect(
          points.some(({ t, a, b }) => Math.abs(Math.abs(b - a) - signal.largest) < 1e-6 && Math.abs(t - signal.largestAt) < 1e-6) ||
            signal.largest === 0,
        ).toBe(true);
        const outside = points.filter((point) => apart(point) > 1e-7).map(({ t }) => t);
        expect(signal.agrees).toBe(signal.parts === undefined);
        if (outside.length > 0) expect(signal.parts).toBeLessThanOrEqual(Math.min(...outside) + 1e-6);
        if (signal.parts !== undefined) expect(points.every((point) => point.t >= signal.parts! - 1e-8 || apart(point) <= 1e-7)).toBe(true);
        const fine = 5_000;
        const [a, b] = [signalOf(one.columns[0]!, one), signalOf(other.columns[0]!, other)];
        let sum = 0;
        for (let k = 0; k < fine; k += 1) {
          const t = (found.until * (k + 0.5)) / fine;
          sum += (valueAt(b, t) - valueAt(a, t)) ** 2 / fine;
        }
        expect(Math.abs(signal.rms ** 2 - sum)).toBeLessThan(0.02 * Math.max(1, sum));
        expect(signal.fit <= 100).toBe(true);
      }),
      { numRuns: 150 },
    );
  });

  it('a value at which they part lies in no span of agreement', () => {
    fc.assert(
      fc.property(random, random, band, (one, other, limits) => {
        const found = compareTraces(one, other, { ...limits, ripple: 0, turns: {} });
        const between = found?.signals[0]?.between;
        if (!found || !between) return;
        for (const { a, b } of looked(one, other, found.until))
          if (a > between.low + 1e-6 && a < between.high - 1e-6)
            expect(Math.abs(b - a)).toBeLessThanOrEqual(limits.absolute + limits.relative * Math.abs(a) + 1e-6);
      }),
      { numRuns: 150 },
    );
  });

  it('what is drawn holds every value of each column, and marks where they part', () => {
    fc.assert(
      fc.property(random, random, band, fc.integer({ min: 1, max: 40 }), (one, other, limits, count) => {
        const until = Math.min(one.until, other.until);
        if (!(until > 0)) return;
        const drawn = drawnPair(signalOf(one.columns[0]!, one), signalOf(other.columns[0]!, other), 0, until, count, limits);
        for (const { t, a, b } of looked(one, other, until)) {
          const column = Math.min(count - 1, Math.floor((t / until) * count));
          expect(a >= drawn.low[0][column]! - 1e-6 && a <= drawn.high[0][column]! + 1e-6).toBe(true);
          expect(b >= drawn.low[1][column]! - 1e-6 && b <= drawn.high[1][column]! + 1e-6).toBe(true);
          if (Math.abs(b - a) > limits.absolute + limits.relative * Math.abs(a) + 1e-6) expect(drawn.parts[column]).toBe(1);
        }
        const parts = compareTraces(one, other, { ...limits, ripple: 0, turns: {} })!.signals[0]!.parts;
        expect(drawn.parts.some((part) => part === 1)).toBe(parts !== undefined);
      }),
      { numRuns: 100 },
    );
  });

  it('a mean over a window is that of the signal', () => {
    fc.assert(
      fc.property(random, fc.double({ min: 0.2, max: 3, noNaN: true }), (one, ripple) => {
        const zero = traceOf([0, one.until], [0, 0]);
        const found = compareTraces(zero, one, { ...exact, ripple })!.signals[0]!;
        const signal = signalOf(one.columns[0]!, one);
        const meanAt = (t: number): number => {
          const [begin, end] = [Math.max(0, t - ripple / 2), Math.min(one.until, t + ripple / 2)];
          let sum = 0;
          for (let n = 0; n < 400; n += 1) sum += valueAt(signal, begin + ((n + 0.5) / 400) * (end - begin)) / 400;
          return Math.abs(sum);
        };
        // Rows are a quarter of a second and 5 m apart at most: where the mean curves it leaves the straight line by no more than this.
        const resolution = 0.1 + 0.05 * ripple;
        expect(Math.abs(found.largest - meanAt(found.largestAt!))).toBeLessThan(resolution);
        for (let k = 0; k <= 200; k += 1) expect(meanAt((one.until * k) / 200)).toBeLessThan(found.largest + resolution);
      }),
      { numRuns: 60 },
    );
  });
});
