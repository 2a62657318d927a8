import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Trace } from '@/core/trace';
import { column, projectOf, runCase } from '../support/project';

const documents = (solver: string, rest: string, tasks = true) => ({
  'components/c.yaml':
    'component: C\ninputs: { u: { type: LREAL } }\noutputs: { y: { type: LREAL } }\nbehaviour: { kind: equations, states: { x: { start: 0 } }, derivatives: { x: 1 + 0 * u }, outputs: { y: x } }\n',
  'components/d.yaml':
    'component: D\ninputs: { y: { type: LREAL } }\noutputs: { n: { type: LREAL } }\nbehaviour: { kind: routine, period: 100 ms, body: "n := n + 1.0;" }\n',
  'loops/l.yaml': `loop: l\ncomponents: { c: { use: C }${tasks ? ', d: { use: D }' : ''} }\n${tasks ? 'wires: [{ from: c.y, to: d.y }]\nunused: [d.n]\n' : 'unused: [c.y]\n'}inputs: { u: { to: c.u } }\nsolver: ${solver}\nstop: 10 s\n`,
  'cases/c.yaml': `case: only\nloop: l\n${rest}`,
});
const run = (solver: string, rest: string, tasks = true): Trace => {
  const project = projectOf(documents(solver, rest, tasks));
  expect(project.faults).toEqual([]);
  return runCase(project).trace;
};
const solvers = [
  '{ method: runge-kutta-4, step: 10 ms }',
  '{ method: dormand-prince-54, step: 1 s, relative_tolerance: 1e-8, absolute_tolerance: 1e-8 }',
];

describe('a run that ends where a condition holds', () => {
  it.each(solvers)('is the beginning of the one that does not, up to the first hit at which it holds: %s', (solver) => {
    const whole = run(solver, '');
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 9_900 }).filter((ms) => ms % 100 !== 0),
        (ms) => {
          const ended = run(solver, `end: { when: c.y >= ${ms / 1000}, at_most: 10 s }\n`);
          const until = Math.ceil(ms / 100) / 10;
          expect(ended.until).toBeCloseTo(until, 9);
          for (const name of ['c.y', 'd.n']) {
            const [part, all] = [column(ended, name), column(whole, name)];
            expect([...part.data]).toEqual([...all.data.slice(0, part.data.length)]);
            expect([...part.time]).toEqual([...all.time.slice(0, part.time.length)]);
            // The last instant is whole: its tasks have run.
            expect(part.time.at(-1)).toBeCloseTo(until, 9);
          }
        },
      ),
      { numRuns: 20 },
    );
  });

  it('goes to its latest time where it never holds, and ends at once where it holds from the start', () => {
    for (const solver of solvers) {
      expect(run(solver, 'end: { when: c.y > 99, at_most: 3 s }\n').until).toBe(3);
      expect(run(solver, 'end: { when: c.y >= 0, at_most: 3 s }\n').until).toBe(0);
    }
  });

  it('ends while a script waits or holds, and the script goes on until then', () => {
    for (const solver of solvers) {
      const waiting =
        'script: [{ wait: { until: c.y > 1, give_up_after: 9 s } }, { set: { u: 4 } }, { wait: { until: c.y > 50, give_up_after: 9 s } }]\n';
      const trace = run(solver, `end: { when: c.y >= 2.45, at_most: 10 s }\n${waiting}`);
      expect(trace.until).toBeCloseTo(2.5, 9);
      expect(column(trace, 'u').data.at(-1)).toBe(4);
      expect(run(solver, `end: { when: c.y >= 2.45, at_most: 10 s }\nscript: [{ hold: 7 s }, { set: { u: 4 } }]\n`).until).toBeCloseTo(2.5, 9);
    }
  });

  it('is looked at where scripts look, where there are no hits: at breakpoints', () => {
    const rest = 'end: { when: c.y >= 2.5, at_most: 10 s }\nstimuli: { u: [{ step: 1, at: 2 s }, { step: 2, at: 4 s }] }\n';
    expect(run(solvers[0]!, rest, false).until).toBe(4);
  });
});
