import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { shareWords } from '@/ui/plot/lane/bandWords';
import { changeAfter, extremes } from '@/ui/plot/pyramid';
import { bandsOf, lowerBound, type MixedBand, reduceCurve, valueAt } from '@/ui/plot/reduce';
import { windowAround, zoomed } from '@/ui/plot/sheet/window';

const identity = (value: number): number => value;

describe('reduction to the screen', () => {
  it('keeps the extremes of every pixel column, however many samples', () => {
    const n = 200_000;
    const time = Float64Array.from({ length: n }, (_, i) => i / n);
    const data = Float64Array.from({ length: n }, (_, i) => (i === 77_777 ? 50 : i === 150_000 ? -40 : Math.sin(i / 900)));
    const points = reduceCurve(time, data, false, 0, 1, (t) => t * 800, identity);
    expect(points.length).toBeLessThan(8000);
    const values = points.map(([, y]) => y);
    expect([Math.max(...values), Math.min(...values)]).toEqual([50, -40]);
    for (let i = 1; i < points.length; i += 1) expect(points[i]![0]).toBeGreaterThanOrEqual(points[i - 1]![0]);
  });
  it('draws held values as steps up to the window’s end', () => {
    const points = reduceCurve(Float64Array.of(0, 5), Float64Array.of(1, 3), true, 0, 10, (t) => t * 10, identity);
    expect(points).toContainEqual([50, 1]);
    expect(points).toContainEqual([50, 3]);
    expect(points.at(-1)).toEqual([100, 3]);
  });
  it('cuts bands at the window and joins equal neighbours', () => {
    const bands = bandsOf(Float64Array.of(0, 1, 2, 3, 4), Float64Array.of(1, 1, 2, 2, 1), 0.5, 3.5, 0);
    expect(bands).toEqual([
      { from: 0.5, until: 2, value: 1 },
      { from: 2, until: 3.5, value: 2 },
    ]);
  });
  it('reads values as the trace defines them', () => {
    const [time, data] = [Float64Array.of(0, 1, 1, 3), Float64Array.of(0, 2, 10, 20)];
    expect(valueAt(time, data, false, 0.5)).toBe(1);
    expect(valueAt(time, data, false, 1)).toBe(10);
    expect(valueAt(time, data, false, 2)).toBe(15);
    expect(valueAt(time, data, true, 2)).toBe(10);
    expect(valueAt(time, data, false, -1)).toBeNaN();
  });
  it('finds the first entry that is not below', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -50, max: 50 })), fc.integer({ min: -60, max: 60 }), (list, value) => {
        const sorted = [...list].sort((a, b) => a - b);
        expect(lowerBound(sorted, value)).toBe(sorted.filter((one) => one < value).length);
      }),
    );
  });
});

describe('a long column', () => {
  const rows = 100_000;
  const steps = Float64Array.from({ length: rows }, (_, i) => (i >= 4096 * 5 && i < 4096 * 5 + 3000 ? 2 : i === 70_001 ? 7 : 1));
  const wave = Float64Array.from({ length: rows }, (_, i) => (i % 9973 === 5 ? Number.NaN : Math.sin(i / 700) * (1 + (i % 13))));

  it('has the same extremes by blocks as row by row', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: rows }), fc.integer({ min: 0, max: rows }), (a, b) => {
        const [start, end] = [Math.min(a, b), Math.max(a, b)];
        let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
        for (let i = start; i < end; i += 1) {
          if (wave[i]! < low) low = wave[i]!;
          if (wave[i]! > high) high = wave[i]!;
        }
        expect(extremes(wave, start, end)).toEqual([low, high]);
      }),
      { numRuns: 60 },
    );
  });

  it('changes where it does, found by blocks', () => {
    expect(changeAfter(steps, 1, rows, 1)).toBe(4096 * 5);
    expect(changeAfter(steps, 4096 * 5 + 1, rows, 2)).toBe(4096 * 5 + 3000);
    expect(changeAfter(steps, 4096 * 5 + 3001, rows, 1)).toBe(70_001);
    expect(changeAfter(steps, 70_002, rows, 1)).toBe(rows);
    const time = Float64Array.from({ length: rows }, (_, i) => i);
    expect(bandsOf(time, steps, 0, rows, 0).map((band) => [band.from, 'value' in band && band.value])).toEqual([
      [0, 1],
      [20_480, 2],
      [23_480, 1],
      [70_001, 7],
      [70_002, 1],
    ]);
  });

  it('is drawn with first, least, greatest and last of each half pixel', () => {
    const time = Float64Array.from({ length: rows }, (_, i) => i / 100);
    const x = (t: number): number => t * 0.8;
    const points = reduceCurve(time, wave, false, 0, 1000, x, identity);
    const columns = new Map<number, number[]>();
    for (let i = 0; i < rows; i += 1) {
      const at = Math.round(x(time[i]!) * 2) / 2;
      if (!Number.isNaN(wave[i]))
        columns.set(at, [
          ...(columns.get(at)?.length ? [columns.get(at)![0]!] : [wave[i]!]),
          Math.min(wave[i]!, columns.get(at)?.[1] ?? wave[i]!),
          Math.max(wave[i]!, columns.get(at)?.[2] ?? wave[i]!),
          wave[i]!,
        ]);
    }
    expect(points).toEqual(
      [...columns].flatMap(([at, [first, low, high, last]]) => [first, ...(low === high ? [] : [low, high]), last].map((value) => [at, value])),
    );
  });
});

describe('bands', () => {
  const held = fc
    .array(fc.record({ gap: fc.oneof(fc.constant(0), fc.integer({ min: 1, max: 40 })), value: fc.constantFrom(0, 1, 2, Number.NaN) }), {
      minLength: 1,
      maxLength: 80,
    })
    .map((rows) => {
      let t = 0;
      return { time: Float64Array.from(rows, ({ gap }) => (t += gap)), data: Float64Array.from(rows, ({ value }) => value) };
    });

  it('leave nothing out, and say of each value how long it held', () => {
    fc.assert(
      fc.property(
        held,
        fc.integer({ min: 0, max: 300 }),
        fc.integer({ min: 1, max: 600 }),
        fc.integer({ min: 0, max: 25 }),
        ({ time, data }, start, length, least) => {
          // From the first row on, as every trace is shown.
          const from = Math.max(start, time[0]!);
          const until = from + length;
          const bands = bandsOf(time, data, from, until, least);
          expect([bands[0]!.from, bands.at(-1)!.until]).toEqual([from, until]);
          bands.forEach((band, index) => {
            if (index > 0) expect(band.from).toBe(bands[index - 1]!.until);
            // All times are whole: a second has one value.
            const lasted = new Map<number, number>();
            let [longest, run] = [0, 0];
            for (let t = band.from; t < band.until; t += 1) {
              const value = valueAt(time, data, true, t + 0.5);
              run = t > band.from && Object.is(value, valueAt(time, data, true, t - 0.5)) ? run + 1 : 1;
              longest = Math.max(longest, run);
              lasted.set(value, (lasted.get(value) ?? 0) + 1);
            }
            if ('held' in band) {
              expect(new Map(band.held)).toEqual(lasted);
              // Stretches of one value on both sides of an instant at which another one held for no time are two.
              if (lasted.size > 1 && !lasted.has(Number.NaN)) expect(longest).toBeLessThan(Math.max(1, 2 * least));
            } else expect([...lasted.keys()]).toEqual([band.value]);
          });
          if (least > 0) expect(bands.length).toBeLessThanOrEqual((2 * length) / least + 2);
        },
      ),
      { numRuns: 500 },
    );
  });

  it('keep a pulse of a second in a week, and the share of a drive that goes on and off all week', () => {
    const week = 604_800;
    const pulse = bandsOf(Float64Array.of(0, 300_000, 300_001), Float64Array.of(0, 1, 0), 0, week, week / 760);
    expect(pulse.map((band) => 'value' in band && [band.from, band.value])).toEqual([
      [0, 0],
      [300_000, 1],
      [300_001, 0],
    ]);
    const changes = Float64Array.from({ length: 2520 }, (_, i) => Math.floor(i / 2) * 480 + (i % 2) * 180);
    const drive = bandsOf(
      changes,
      Float64Array.from(changes, (_, i) => (i + 1) % 2),
      0,
      week,
      week / 760,
    );
    expect(drive).toHaveLength(1);
    expect(shareWords(drive[0] as MixedBand, (value) => (value === 1 ? 'TRUE' : undefined))).toBe('TRUE 37.5\u00a0%');
  });

  it('never say 0 % of what came about, nor 100 % of what was interrupted', () => {
    const words = (on: number, off: number): string =>
      shareWords(
        {
          from: 0,
          until: on + off,
          held: new Map([
            [1, on],
            [2, off],
          ]),
        },
        (value) => ['', 'On', 'Off'][value],
      );
    expect(words(1, 9999)).toBe('On 0.01\u00a0%, Off more than 99.9\u00a0%');
    expect(words(1, 3)).toBe('On 25\u00a0%, Off 75\u00a0%');
  });

  it('are missing where a long recording has no value', () => {
    const rows = 40_000;
    const data = Float64Array.from({ length: rows }, (_, i) => (i === 30_011 ? Number.NaN : 1));
    expect(changeAfter(data, 1, rows, 1)).toBe(30_011);
    const time = Float64Array.from({ length: rows }, (_, i) => i);
    expect(bandsOf(time, data, 0, rows, 0).map((band) => 'value' in band && [band.from, band.value])).toEqual([
      [0, 1],
      [30_011, Number.NaN],
      [30_012, 1],
    ]);
  });
});

describe('the window of a plot', () => {
  const whole = { from: 0, until: 500 };
  it('holds the pointer’s instant in place and never leaves the run', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 500, noNaN: true }), fc.double({ min: 0.1, max: 10, noNaN: true }), (at, factor) => {
        const view = zoomed(whole, whole, at, factor);
        expect(view.from).toBeGreaterThanOrEqual(0);
        expect(view.until).toBeLessThanOrEqual(500 + 1e-9);
        if (factor < 1) expect((at - view.from) / (view.until - view.from)).toBeCloseTo(at / 500, 9);
      }),
    );
  });
  it('shows an obligation with some time around it', () => {
    const view = windowAround({ from: 100, until: 110, outcome: 'broken', at: 110 }, whole);
    expect(view).toEqual({ from: 94, until: 116 });
    expect(windowAround({ from: 0, until: 500, outcome: 'met', at: 500 }, whole)).toEqual(whole);
    // What was owed all the time and broken early on: a window on all of it would show that place as a dot.
    expect(windowAround({ from: 0, until: 500, outcome: 'broken', at: 35 }, whole)).toEqual({ from: 0, until: 56 });
  });
});
