import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ShortLog } from '@/core/emit/js';
import { SpareBuffers } from '@/core/memory';
import { ownColumns } from '@/core/plan';
import { Recorder } from '@/core/simulate';
import { projectOf } from '../support/project';

const rows = 1000;

describe('the memory of a trace', () => {
  it('grows to what is allowed and no further, and the reason says what to do', () => {
    const project = projectOf({
      'components/plant.yaml':
        'component: Plant\noutputs: { y: { type: LREAL } }\nbehaviour: { kind: equations, states: { x: { start: 0 } }, derivatives: { x: "1.0" }, outputs: { y: x } }\n',
      'loops/one.yaml': 'loop: one\ncomponents: { p: { use: Plant } }\nunused: [p.y]\nsolver: { method: runge-kutta-4, step: 1 s }\nstop: 10 s\n',
      'cases/a.yaml': 'case: a\nloop: one\n',
    });
    const { plan } = project.cases[0]!.experiment;
    const width = ownColumns(plan).length;
    const log: ShortLog = { columns: Array.from({ length: width + 1 }, () => new Float64Array(rows)), rows };
    const most = 20_000;
    const recorder = new Recorder(plan, [], 10e9, [log], most);
    const taken = (): number => {
      for (let count = 0; ; count += 1) {
        try {
          recorder.take(0, log, rows);
        } catch (problem) {
          expect(problem).toBeInstanceOf(RangeError);
          expect(String(problem)).toContain('record less often (record_every, or a longer step or period), or stop earlier');
          return count * rows * (width + 1);
        }
      }
    };
    const numbers = taken();
    expect(numbers).toBeLessThanOrEqual(most);
    // Nearly all of it is used: no doubling is refused that a smaller step would have allowed.
    expect(numbers).toBeGreaterThan(most - 2 * rows * (width + 1));
  });
});

describe('memory that is kept for the runs to come', () => {
  it('is bounded by its numbers, however many pieces are given back, and given out again', () => {
    fc.assert(
      fc.property(fc.array(fc.record({ numbers: fc.integer({ min: 1, max: 120 }), takes: fc.boolean() }), { maxLength: 60 }), (steps) => {
        const spare = new SpareBuffers(100);
        const out: Float64Array[] = [];
        for (const { numbers, takes } of steps) {
          const before = spare.kept;
          if (takes) {
            const taken = spare.take(numbers);
            expect(taken).toHaveLength(numbers);
            // Nobody gets what somebody else still holds.
            expect(out.some((one) => one.buffer === taken.buffer)).toBe(false);
            expect([before, before - numbers]).toContain(spare.kept);
            out.push(taken);
          } else {
            const given = out.shift() ?? new Float64Array(numbers);
            spare.give(given.buffer as ArrayBuffer);
            const after = spare.kept;
            expect(after).toBe(given.length > 100 ? before : Math.max(after, given.length));
            // Once is enough.
            spare.give(given.buffer as ArrayBuffer);
            expect(spare.kept).toBe(after);
          }
          expect(spare.kept).toBeLessThanOrEqual(100);
        }
      }),
    );
  });
});
