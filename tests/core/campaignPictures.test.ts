import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bandsOf, chosenForFamily, type KeptRun, picturesOf, RunTable, responseOf } from '@/core/campaign';
import { quantile, sorted } from '@/core/statistics';
import type { Point, Quantity } from '@/core/variation';
import { column, projectOf, runCase } from '../support/project';

const criteria = [{ requirement: 'R1', name: 'low' }];

/** Runs with these margins, at the points of a design. */
function tableOf(margins: readonly (number | undefined)[]): RunTable {
  const table = new RunTable(criteria, margins.length);
  for (const [index, value] of margins.entries()) {
    const margin = value === undefined ? undefined : { value, unit: 'm', measure: value };
    const run: KeptRun = {
      verdict: 'pass',
      seed: index,
      traceHash: '',
      implausible: [],
      results: [
        {
          requirement: 'R1',
          name: 'low',
          verdict: value === undefined ? 'none' : value < 0 ? 'fail' : 'pass',
          obligations: margin ? [{ margin }] : [],
          ...(margin ? { worst: 0 } : {}),
        },
      ],
    };
    table.put(index, run);
  }
  return table;
}

const levels = (name: string, count: number): Quantity => ({ name, spread: { k: 'levels', levels: Array.from({ length: count }, (_, i) => i / 4) } });
const margin = fc.option(fc.double({ min: -5, max: 5, noNaN: true }), { nil: undefined });

describe('what is drawn of a criterion', () => {
  it('counts each margin once, in the span it lies in, and no span holds both sides of the limit', () => {
    fc.assert(
      fc.property(fc.array(margin, { minLength: 1, maxLength: 300 }), (margins) => {
        const pictures = picturesOf(tableOf(margins), { quantities: [], interval: 'none', growing: new Set(), pointOf: () => [] }, 0);
        const known = margins.filter((one) => one !== undefined);
        expect(pictures.all).toBe(known.length);
        if (!pictures.histogram) {
          expect(known).toEqual([]);
          return;
        }
        const { from, width, counts } = pictures.histogram;
        expect(counts.reduce((sum, one) => sum + one, 0)).toBe(known.length);
        counts.forEach((count, index) => {
          const [low, high] = [from + index * width, from + (index + 1) * width];
          const inside = known.filter((one) => Math.floor(one / width) === Math.round(low / width)).length;
          expect(count).toBe(inside);
          expect(low < -width / 1e6 && high > width / 1e6).toBe(false);
        });
        const ordered = sorted(known);
        expect(pictures.quantiles?.median).toBe(quantile(ordered, 0.5));
        expect(pictures.worst.map((one) => one.margin)).toEqual([...ordered].slice(0, 20));
      }),
    );
  });

  it('has in each cell of its maps the least margin of just the runs that stand there', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 5 }),
        fc.integer({ min: 2, max: 5 }),
        fc.integer({ min: 1, max: 3 }),
        fc.infiniteStream(margin),
        (a, b, c, stream) => {
          const quantities = [levels('a', a), levels('b', b), ...(c > 1 ? [levels('c', c)] : [])];
          const points: Point[] = [];
          for (let i = 0; i < a; i += 1)
            for (let j = 0; j < b; j += 1) for (let k = 0; k < c; k += 1) points.push([i / 4, j / 4, ...(c > 1 ? [k / 4] : [])]);
          const margins = points.map(() => stream.next().value as number | undefined);
          const { maps } = picturesOf(
            tableOf(margins),
            { quantities, interval: 'none', growing: new Set(), pointOf: (number) => points[number - 1]! },
            0,
          );
          const of = (name: string): number => quantities.findIndex((one) => one.name === name);
          let seen = 0;
          for (const map of maps)
            for (const [index, cell] of map.cells.entries()) {
              const x = map.acrossLevels[index % map.acrossLevels.length];
              const y = map.upLevels[Math.floor(index / map.acrossLevels.length)];
              const there = points.flatMap((point, at) =>
                point[of(map.across)] === x &&
                point[of(map.up)] === y &&
                (!map.at || point[of(map.at.name)] === map.at.level) &&
                margins[at] !== undefined
                  ? [margins[at]!]
                  : [],
              );
              seen += there.length;
              expect(cell.runs).toBe(there.length);
              expect(cell.failed).toBe(there.filter((one) => one < 0).length);
              expect(cell.margin).toBe(there.length > 0 ? Math.min(...there) : undefined);
            }
          expect(seen).toBe(margins.filter((one) => one !== undefined).length);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('draws the worst and others evenly where there are too many to draw', () => {
    const margins = Array.from({ length: 9000 }, (_, index) => ((index * 7919) % 9000) / 1000 - 1);
    const { runs, all, worst } = picturesOf(tableOf(margins), { quantities: [], interval: 'none', growing: new Set(), pointOf: () => [] }, 0);
    expect([runs.length, all]).toEqual([2000, 9000]);
    expect(new Set(runs.map((one) => one.number)).size).toBe(2000);
    for (const one of worst) expect(runs.map((other) => other.number)).toContain(one.number);
    for (const one of runs) expect(one.margin).toBe(margins[one.number - 1]);
  });
});

describe('a family of responses', () => {
  it('has at each instant what the trace has there, and nothing after the run has ended', () => {
    const { trace } = runCase(
      projectOf({
        'components/c.yaml':
          'component: C\noutputs: { y: { type: LREAL } }\nbehaviour: { kind: equations, states: { x: { start: 0 } }, derivatives: { x: 2 }, outputs: { y: x } }\n',
        'loops/l.yaml': 'loop: l\ncomponents: { c: { use: C } }\nunused: [c.y]\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 4 s\n',
        'cases/c.yaml': 'case: only\nloop: l\n',
      }),
    );
    const values = responseOf(trace, 'c.y', 0.5, 13)!;
    expect([...values].slice(0, 9).map((one) => Number(one.toFixed(9)))).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8]);
    expect([...values].slice(9).every(Number.isNaN)).toBe(true);
    expect(column(trace, 'c.y').data.at(-1)).toBeCloseTo(8, 9);
    expect(responseOf(trace, 'c.z', 0.5, 13)).toBeUndefined();
  });

  it('has bands that hold the shares they say, of the runs that have not ended', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.oneof(fc.double({ min: -9, max: 9, noNaN: true }), fc.constant(Number.NaN)), { minLength: 4, maxLength: 4 }), {
          minLength: 1,
          maxLength: 60,
        }),
        (runs) => {
          const bands = bandsOf(runs.map((values, index) => ({ number: index + 1, values: Float64Array.from(values) })));
          for (let at = 0; at < 4; at += 1) {
            const there = sorted(runs.map((one) => one[at]!));
            const [low, high] = [bands.whole.low[at]!, bands.whole.high[at]!];
            if (there.length === 0) {
              expect(Number.isNaN(low)).toBe(true);
              continue;
            }
            expect([low, high]).toEqual([there[0], there.at(-1)]);
            const inside = (from: number, until: number): number => there.filter((one) => one >= from && one <= until).length;
            expect(inside(bands.wide.low[at]!, bands.wide.high[at]!)).toBeGreaterThanOrEqual(Math.floor(0.9 * (there.length + 1)) - 1);
            expect(inside(bands.narrow.low[at]!, bands.narrow.high[at]!)).toBeGreaterThanOrEqual(Math.floor(0.5 * (there.length + 1)) - 1);
            expect(bands.median[at]).toBe(quantile(there, 0.5));
          }
        },
      ),
    );
  });

  it('is made of runs over the whole design, those that are named among them', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 500 }),
        fc.integer({ min: 1, max: 60 }),
        fc.array(fc.integer({ min: 1, max: 500 }), { maxLength: 3 }),
        (total, most, named) => {
          const chosen = chosenForFamily(total, most, named);
          expect(new Set(chosen).size).toBe(chosen.length);
          for (const one of chosen) expect(one >= 1 && one <= total).toBe(true);
          for (const one of named) if (one <= total) expect(chosen).toContain(one);
          expect(chosen.length).toBeGreaterThanOrEqual(Math.min(most, total));
          expect(chosen.length).toBeLessThanOrEqual(Math.min(most, total) + named.length);
        },
      ),
    );
  });
});
