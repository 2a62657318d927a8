import { describe, expect, it } from 'vitest';
import { type CompareSettings, compareTraces } from '@/core/compare';
import type { Column, Trace } from '@/core/trace';

const time = Float64Array.from({ length: 4_001 }, (_, i) => i / 100);
function traceOf(signals: Readonly<Record<string, (t: number) => number>>, at = time): Trace {
  const columns = Object.entries(signals).map(
    ([name, f], slot): Column => ({ name, slot, base: 0, between: 'straight', type: 'LREAL', unit: 'm', data: at.map(f) }),
  );
  return {
    bases: [at],
    columns,
    marks: { time: new Float64Array(), mark: new Int32Array(), entered: new Uint8Array() },
    from: at[0]!,
    until: at.at(-1)!,
  };
}
const settings: CompareSettings = { absolute: 0.01, relative: 0, ripple: 0, turns: {} };
/** A level that rises, rests and falls, with a wave on it. */
const level = (t: number): number => 3 / (1 + Math.exp(-(t - 12) * 0.8)) - 2 / (1 + Math.exp(-(t - 28) * 0.6)) + 0.05 * Math.sin(t);
const compared = (one: (t: number) => number, other: (t: number) => number, more: Partial<CompareSettings> = {}) =>
  compareTraces(traceOf({ level: one }), traceOf({ level: other }), { ...settings, ...more })!.signals[0]!;

describe('two traces compared', () => {
  it('are equal, whatever rows they have', () => {
    const sparse = Float64Array.from({ length: 801 }, (_, i) => i / 20);
    const found = compareTraces(traceOf({ x: (t) => 2 * t }), traceOf({ x: (t) => 2 * t }, sparse), settings)!;
    expect(found.words).toBe('They agree on the one signal they have in common.');
    expect(found.signals[0]).toMatchObject({ agrees: true, kind: 'equal', fit: 100, trend: 1 });
  });

  it.each([0.4, 2.5, -1.2])('a planted delay of %d s is found and named', (delay) => {
    const found = compared(level, (t) => level(t - delay));
    expect(found.kind).toBe('delay');
    expect(found.delay).toBeCloseTo(delay, 1);
    expect(found.agrees).toBe(false);
  });

  it.each([0.2, -0.35])('a planted offset of %d m is found and named', (offset) => {
    const found = compared(level, (t) => level(t) + offset);
    expect(found).toMatchObject({ kind: 'offset', agrees: false, trend: expect.closeTo(1, 6), parts: 0 });
    expect(found.offset).toBeCloseTo(offset, 6);
    expect(found.largest).toBeCloseTo(Math.abs(offset), 6);
  });

  it.each([1.1, 0.7])('a planted gain of %d is found and named', (gain) => {
    const found = compared(level, (t) => gain * level(t));
    expect(found.kind).toBe('gain');
    expect(found.gain).toBeCloseTo(gain, 6);
  });

  it('says the first instant outside the band, and what no simple cause explains', () => {
    const found = compareTraces(
      traceOf({ level, still: () => 1 }),
      traceOf({ level: (t) => level(t) + (t > 20 ? 0.1 * (t - 20) ** 2 : 0), still: () => 1, further: () => 0 }),
      settings,
    )!;
    const [moved] = found.signals;
    expect(moved?.kind).toBe('shape');
    // 0.1 (t − 20)² leaves the band of 0.01 at 20.316.
    expect(moved?.parts).toBeCloseTo(20 + Math.sqrt(0.1), 1);
    expect(found.words).toMatch(/^They agree on 1 of 2 signals, and first diverge at 20\.3\d* s in level: they differ by up to 40 m at 40 s\.$/);
    expect(found).toMatchObject({ onlyFirst: [], onlySecond: ['further'] });
  });

  it('tells a trend from a distance: a shifted signal moves the same way, an inverted one never, at a like distance', () => {
    const swing = (t: number): number => Math.sin(t / 3);
    const shifted = compared(swing, (t) => swing(t) + 1);
    const inverted = compared(swing, (t) => -swing(t) * Math.SQRT1_2);
    expect(Math.abs(shifted.rms - inverted.rms)).toBeLessThan(0.3);
    expect(shifted.trend).toBeGreaterThan(0.99);
    expect(inverted.trend).toBeLessThan(0.02);
    expect(inverted.fit).toBeLessThan(0);
  });

  it('averages ripple out and takes whole turns off angles on demand', () => {
    const rippled = (t: number): number => level(t) + 0.03 * Math.sin(40 * t);
    expect(compared(level, rippled).agrees).toBe(false);
    expect(compared(level, rippled, { ripple: 0.8 }).agrees).toBe(true);
    const angle = (t: number): number => (100 * t) % 360;
    expect(compared(angle, (t) => ((100 * t + 0.5) % 360) + 720, { absolute: 1 }).agrees).toBe(false);
    const fine = compared(angle, (t) => ((100 * t + 0.5) % 360) + 720, { absolute: 1, turns: { level: 360 } });
    expect(fine.agrees).toBe(true);
    expect(fine.largest).toBeCloseTo(0.5, 6);
  });

  it('a sampled signal keeps its last value to the end, where the period does not divide the run', () => {
    const held = (value: number): Trace => {
      const hits = Float64Array.of(0, 7, 14, 21, 28, 35);
      const column: Column = { name: 'level', slot: 0, base: 1, between: 'held', type: 'LREAL', unit: 'm', data: hits.map((t) => t + value) };
      return { ...traceOf({}), bases: [time, hits], columns: [column] };
    };
    const found = compareTraces(held(0), held(2), settings)!.signals[0]!;
    expect(found).toMatchObject({ kind: 'offset', agrees: false });
    expect(found.rms).toBeCloseTo(2, 9);
  });

  it('a signal that stands still has neither fit nor gain', () => {
    const found = compared(
      () => 3.9,
      (t) => 3.9 + 0.07 * Math.sin(t),
    );
    expect(found.fit).toBe(Number.NEGATIVE_INFINITY);
    expect(found.gain).toBe(1);
  });

  it('of traces without a time in common there is nothing to say', () =>
    expect(compareTraces(traceOf({ x: () => 0 }), traceOf({ x: () => 0 }, Float64Array.of(100, 101)), settings)).toBeUndefined());
});
