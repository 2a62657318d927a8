import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Column, Trace } from '@/core/trace';
import { phaseWay } from '@/ui/plot/phase';
import { valueAt } from '@/ui/plot/reduce';

/** Times that only go on, some of them twice in a row as at an event, with values; one may be missing. */
const signal = fc.record({
  steps: fc.array(fc.tuple(fc.constantFrom(0, 0.25, 1, 1.75), fc.oneof(fc.double({ min: -5, max: 5, noNaN: true }), fc.constant(Number.NaN))), {
    minLength: 1,
    maxLength: 12,
  }),
  isHeld: fc.boolean(),
});

function traceOf(signals: readonly { steps: readonly (readonly [number, number])[]; isHeld: boolean }[]): Trace {
  const bases = signals.map(({ steps }) => {
    let t = 0;
    return Float64Array.from(steps, ([by], row) => (t += row === 0 ? 0 : by));
  });
  const columns = signals.map(
    ({ steps, isHeld }, base) =>
      ({
        name: `s${base}`,
        slot: base,
        base,
        between: isHeld ? 'held' : 'linear',
        type: 'LREAL',
        unit: '',
        data: Float64Array.from(steps, ([, value]) => value),
      }) as Column,
  );
  return { from: 0, until: Math.max(...bases.map((time) => time.at(-1) ?? 0)) + 1, bases, columns } as unknown as Trace;
}

describe('the way of two signals against each other', () => {
  it('passes through what both are at every instant, and never outside what they are', () => {
    fc.assert(
      fc.property(signal, signal, fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (a, b, u, v) => {
        const trace = traceOf([a, b]);
        const [across, up] = trace.columns as [Column, Column];
        const [from, until] = [Math.min(u, v) * trace.until, Math.max(u, v) * trace.until];
        const way = phaseWay({ trace, across, up }, from, until);
        const read = (column: Column, t: number): number =>
          valueAt(trace.bases[column.base] as Float64Array, column.data, column.between === 'held', t);
        // Whatever instant is looked at lies on a piece of the way.
        for (let k = 0; k <= 40; k += 1) {
          const t = from + (k / 40) * (until - from);
          const [x, y] = [read(across, t), read(up, t)];
          if (Number.isNaN(x + y)) continue;
          expect(way.some(([px, py], index) => liesOn([x, y], [px, py], way[index + 1] ?? [px, py]))).toBe(true);
        }
        // Each point of the way is a value of both signals, or lies on a line of one: never beyond its extremes.
        const seen = (column: Column): number[] => [...column.data].filter((value) => !Number.isNaN(value));
        const [xs, ys] = [seen(across), seen(up)];
        for (const [x, y] of way) {
          if (Number.isNaN(x)) continue;
          expect(x >= Math.min(...xs) - 1e-9 && x <= Math.max(...xs) + 1e-9).toBe(true);
          expect(y >= Math.min(...ys) - 1e-9 && y <= Math.max(...ys) + 1e-9).toBe(true);
        }
      }),
      { numRuns: 400 },
    );
  });

  it('of a circle is a circle; of a switch over a ramp a step that does not lean', () => {
    const time = Float64Array.from({ length: 201 }, (_, row) => row / 20);
    const column = (name: string, slot: number, between: 'linear' | 'held', of: (t: number) => number): Column =>
      ({ name, slot, base: 0, between, type: 'LREAL', unit: '', data: time.map(of) }) as Column;
    const columns = [
      column('x', 0, 'linear', Math.cos),
      column('y', 1, 'linear', Math.sin),
      column('ramp', 2, 'linear', (t) => t),
      column('switch', 3, 'held', (t) => (t >= 5 ? 1 : 0)),
    ];
    const trace = { from: 0, until: 10, bases: [time], columns } as unknown as Trace;
    const pair = (a: number, b: number) => ({ trace, across: columns[a] as Column, up: columns[b] as Column });
    for (const [x, y] of phaseWay(pair(0, 1), 0, 10)) expect(Math.hypot(x, y)).toBeCloseTo(1, 3);
    const step = phaseWay(pair(2, 3), 0, 10);
    step.forEach(([x, y], index) => {
      const next = step[index + 1];
      if (next && next[1] !== y) expect([x, next[0]]).toEqual([5, 5]);
    });
    expect(phaseWay(pair(0, 1), 20, 30)).toEqual([]);
  });
});

function liesOn([x, y]: readonly [number, number], [ax, ay]: readonly [number, number], [bx, by]: readonly [number, number]): boolean {
  if (Number.isNaN(ax + bx)) return Math.abs(x - ax) < 1e-9 && Math.abs(y - ay) < 1e-9;
  const length = Math.hypot(bx - ax, by - ay);
  const share = length === 0 ? 0 : Math.min(1, Math.max(0, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / length ** 2));
  return Math.hypot(x - ax - share * (bx - ax), y - ay - share * (by - ay)) < 1e-9 * (1 + length);
}
