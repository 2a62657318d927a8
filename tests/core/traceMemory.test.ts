import { describe, expect, it } from 'vitest';
import type { ShortLog } from '@/core/emit/js';
import { ownColumns } from '@/core/plan';
import { Recorder } from '@/core/simulate/recorder';
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
