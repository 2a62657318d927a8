import fc from 'fast-check';
import { renderToStaticMarkup } from 'react-dom/server';
import { describe, expect, it } from 'vitest';
import type { Column, Trace } from '@/core/trace';
import { Lane, type LaneCurve, laneHeight } from '@/ui/plot/lane/Lane';
import { labelRoom, labelSpacing } from '@/ui/plot/lane/LaneLabels';
import { placeLabels } from '@/ui/plot/lane/labels';
import { joined, parted, withoutSignal, withSignal } from '@/ui/plot/sheet/grouping';

const number = fc.double({ min: -1e4, max: 1e4, noNaN: true });

/** A trace of so many signals over one time base. */
function traceOf(values: readonly (readonly number[])[]): Trace {
  const rows = values[0]?.length ?? 0;
  const columns = values.map((data, slot): Column => {
    const name = `tank_${slot}.level_of_the_upper_reach`;
    return { name, slot, base: 0, between: 'linear', type: 'LREAL', unit: 'm', data: Float64Array.from(data) } as Column;
  });
  return { from: 0, until: rows - 1, bases: [Float64Array.from({ length: rows }, (_, row) => row)], columns } as unknown as Trace;
}

describe('the words of a lane', () => {
  it('stand as near as can be to what they belong to, in its order, and never over each other', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: -50, max: 250, noNaN: true }), { maxLength: 9 }), fc.integer({ min: 20, max: 200 }), (wished, height) => {
        const placed = placeLabels(wished, 0, height, 13);
        const room = Math.floor(height / 13);
        expect(placed.filter((y) => y !== undefined).length).toBe(Math.min(room, wished.length));
        const pairs = placed.flatMap((y, index) => (y === undefined ? [] : [{ y, wish: wished[index] as number }]));
        pairs.sort((a, b) => a.wish - b.wish || a.y - b.y);
        pairs.forEach(({ y }, index) => {
          expect(y).toBeGreaterThanOrEqual(6.5 - 1e-9);
          expect(y).toBeLessThanOrEqual(height - 6.5 + 1e-9);
          const next = pairs[index + 1];
          if (next) expect(next.y - y).toBeGreaterThanOrEqual(13 - 1e-9);
        });
        // Nothing moves that is in nobody's way.
        const isFree = pairs.every(
          ({ wish }, index) => wish >= 6.5 && wish <= height - 6.5 && (index === 0 || wish - (pairs[index - 1]?.wish as number) >= 13),
        );
        if (isFree) for (const { y, wish } of pairs) expect(y).toBeCloseTo(wish, 9);
        // Any other order of steps up or down is no nearer: moving one alone to and fro, where it may, never helps.
        const cost = (all: readonly { y: number; wish: number }[]): number => all.reduce((sum, { y, wish }) => sum + (y - wish) ** 2, 0);
        pairs.forEach(({ y, wish }, index) => {
          for (const moved of [y - 0.1, y + 0.1]) {
            const [before, after] = [pairs[index - 1]?.y ?? Number.NEGATIVE_INFINITY, pairs[index + 1]?.y ?? Number.POSITIVE_INFINITY];
            if (moved < 6.5 || moved > height - 6.5 || moved - before < 13 || after - moved < 13) continue;
            expect(cost(pairs.map((one, at) => (at === index ? { y: moved, wish } : one)))).toBeGreaterThanOrEqual(cost(pairs) - 1e-9);
          }
        });
      }),
    );
  });

  it('stand beside the curves, never over them, each name and each limit once', () => {
    const rows = fc.integer({ min: 2, max: 30 });
    const lane = rows.chain((count) =>
      fc.record({
        values: fc.array(fc.array(number, { minLength: count, maxLength: count }), { minLength: 1, maxLength: 4 }),
        limits: fc.array(number, { maxLength: 4 }),
      }),
    );
    fc.assert(
      fc.property(lane, ({ values, limits }) => {
        const trace = traceOf(values);
        const drawn = limits.map((value, index) => ({ slot: 0, value, label: `limit ${value.toFixed(2)} · TL-0${index}` }));
        const curves = trace.columns.map((column, index): LaneCurve => ({ trace, column, tone: `tone-${index}`, name: column.name }));
        const labels = [...curves.map(({ name }) => name ?? ''), ...drawn.map(({ label }) => label)];
        const height = laneHeight(trace.columns, labels.length);
        const right = labelRoom(labels);
        const frame = { from: 0, until: trace.until, left: 50, width: 500 };
        const markup = renderToStaticMarkup(<Lane curves={curves} frame={frame} top={20} height={height} limits={drawn} right={right} />);
        const texts = [...markup.matchAll(/<text x="([\d.]+)" y="([\d.-]+)"([^>]*)>([^<]*)/g)].map(([, x, y, rest = '', words = '']) => ({
          x: Number(x),
          y: Number(y),
          isEnd: rest.includes('text-anchor="end"'),
          width: words.length * (/font-size="([\d.]+)"/.exec(rest) ? Number(/font-size="([\d.]+)"/.exec(rest)?.[1]) : 0) * 0.6,
        }));
        for (const { x, isEnd, width } of texts) {
          if (isEnd) expect(x).toBeLessThanOrEqual(frame.left);
          else expect(x).toBeGreaterThanOrEqual(frame.left + frame.width);
          if (!isEnd) expect(x + width).toBeLessThanOrEqual(frame.left + frame.width + right + 1e-6);
        }
        const beside = texts.filter(({ isEnd }) => !isEnd).sort((a, b) => a.y - b.y);
        expect(beside.length).toBe(curves.length + new Set(limits).size);
        beside.forEach(({ y }, index) => {
          const next = beside[index + 1];
          if (next) expect(next.y - y).toBeGreaterThanOrEqual(labelSpacing - 1e-6);
        });
      }),
      { numRuns: 150 },
    );
  });
});

describe('signals in lanes', () => {
  const names = ['a', 'b', 'c', 'd', 'e'];
  const step = fc.tuple(fc.constantFrom('add', 'drop', 'join', 'part'), fc.constantFrom(...names), fc.constantFrom(...names));

  it('each stands in one lane, and in none once it is dropped, whatever is done in whatever order', () => {
    fc.assert(
      fc.property(fc.array(step, { maxLength: 30 }), (steps) => {
        const there = new Set(['a', 'b']);
        let lanes: readonly (readonly string[])[] = [['a'], ['b']];
        for (const [what, name, other] of steps) {
          if (what === 'add') there.add(name);
          if (what === 'drop') there.delete(name);
          const before = lanes;
          lanes =
            what === 'add'
              ? withSignal(lanes, name)
              : what === 'drop'
                ? withoutSignal(lanes, name)
                : what === 'join'
                  ? joined(lanes, name, other)
                  : parted(lanes, name);
          expect([...lanes.flat()].sort()).toEqual([...there].sort());
          expect(lanes.every((lane) => lane.length > 0)).toBe(true);
          const laneOf = (one: string) => lanes.find((lane) => lane.includes(one));
          if (what === 'join' && there.has(name) && there.has(other)) expect(laneOf(name)).toContain(other);
          if (what === 'part' && there.has(name)) expect(laneOf(name)).toEqual([name]);
          // The others stay in the lanes and in the order they were in.
          const rest = (all: typeof lanes) => all.map((lane) => lane.filter((one) => one !== name)).filter((lane) => lane.length > 0);
          if (what !== 'join') expect(rest(lanes)).toEqual(rest(before));
        }
      }),
    );
  });
});
