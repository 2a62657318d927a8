import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DeskSession } from '@/core/desk';
import { openDesk, type RunResult } from '@/core/project';
import { column, projectOf, runCase } from '../support/project';

const rk4 = '{ method: runge-kutta-4, step: 10 ms }';
const solvers = [rk4, '{ method: dormand-prince-54, step: 1 s, relative_tolerance: 1e-8, absolute_tolerance: 1e-8 }'];

/** A state that grows by `rate` in each second, a routine that counts its hits, and a case with that script. */
const project = (script: string, { solver = rk4, rest = '' } = {}) =>
  projectOf({
    'components/c.yaml': `component: C
inputs: { u: { type: LREAL } }
outputs: { y: { type: LREAL } }
parameters:
  rate: { value: 1, min: 0, max: 10 }
  limit: { value: 4, min: 0, max: 100 }
  built: { value: 1, tuning: fixed }
behaviour: { kind: equations, states: { x: { start: 0 } }, derivatives: { x: rate }, outputs: { y: x + u } }
`,
    'components/d.yaml':
      'component: D\ninputs: { y: { type: LREAL } }\noutputs: { n: { type: LREAL } }\nbehaviour: { kind: routine, period: 100 ms, body: "n := n + 1.0;" }\n',
    'loops/l.yaml': `loop: l\ncomponents: { c: { use: C }, d: { use: D } }\nwires: [{ from: c.y, to: d.y }]\nunused: [d.n]\ninputs: { u: { to: c.u } }\nsolver: ${solver}\nstop: 10 s\n`,
    'cases/c.yaml': `case: only\nloop: l\n${rest}script:\n${script}`,
    'requirements/r.yaml':
      'section: First\nrequirements: [{ requirement: R1, text: It stays below its limit., criteria: [{ criterion: below, sentence: always c.y <= c.limit, accepted: { by: us, on: 2026-01-01 } }] }]\n',
  });
const expectedOf = (result: RunResult) => result.expected.map(({ text, from, at, outcome }) => [text, from, at, outcome]);

describe('what a script expects', () => {
  it.each(solvers)('is met at the first instant at which it holds, and broken where its time is over: %s', (solver) => {
    const { result } = runCase(
      project('  - hold: 1 s\n  - expect: { holds: c.y >= 1.95, within: 2 s }\n  - expect: { holds: c.y >= 9, within: 3 s }\n  - hold: 1 s\n', {
        solver,
      }),
    );
    expect(expectedOf(result)).toEqual([
      ['c.y >= 1.95', 1, 2, 'met'],
      ['c.y >= 9', 2, 5, 'broken'],
    ]);
    // It is the case that is not as it expects; no requirement is to blame.
    expect(result.verdict).toBe('fail');
  });

  it('is met where it holds just at the end of its time, and stays open where the run ends before', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 70 }), fc.integer({ min: 1, max: 99 }), (due, within) => {
        const { result } = runCase(
          project(`  - change: { limit: 100 }\n  - expect: { holds: d.n >= ${due}, within: ${within * 100} ms }\n`, { rest: 'stop: 8 s\n' }),
        );
        // The n-th hit is at (n − 1) · 100 ms; what it counts is seen from the next instant on.
        const [, from, , outcome] = expectedOf(result)[0]!;
        expect(from).toBe(0);
        expect(outcome).toBe(due <= within ? 'met' : within < 80 ? 'broken' : 'open');
        expect(result.verdict).toBe(outcome === 'met' ? 'pass' : outcome === 'broken' ? 'fail' : 'inconclusive');
      }),
      { numRuns: 40 },
    );
  });

  it('that is never come to stays open', () => {
    const { result } = runCase(project('  - wait: { until: c.y > 99, give_up_after: 1 s }\n  - expect: { holds: c.y > 1, within: 1 s }\n'));
    expect(expectedOf(result).map(([text, , , outcome]) => [text, outcome])).toEqual([['c.y > 1', 'open']]);
  });
});

describe('a parameter that changes during a run', () => {
  it.each(solvers)('acts from that instant on, and is judged with the value it had: %s', (solver) => {
    const { result, trace } = runCase(
      project('  - change: { limit: 100 }\n  - hold: 2 s\n  - change: { c.rate: 3 }\n  - hold: 2 s\n  - change: { c.rate: 0, limit: 8.5 }\n', {
        solver,
      }),
    );
    const y = column(trace, 'c.y');
    expect(y.data.at(-1)).toBeCloseTo(8, 6);
    const limit = column(trace, 'c.limit');
    const at = (t: number): number => limit.data[limit.time.findLastIndex((one) => one <= t)]!;
    expect([at(0), at(3.9), at(4), at(9)]).toEqual([100, 100, 8.5, 8.5]);
    expect(result.results[0]?.verdict).toBe('pass');
    expect(result.results[0]?.obligations[result.results[0].worst ?? 0]?.margin?.value).toBeCloseTo(0.5, 6);
  });

  it('breaks a limit in which it stands while it is too low, whatever it is in the end', () => {
    const { result } = runCase(project('  - hold: 6 s\n  - change: { limit: 100 }\n'));
    expect(result.results[0]?.verdict).toBe('fail');
    expect(result.results[0]?.obligations[0]?.margin?.value).toBeCloseTo(-2, 6);
  });

  it('is judged so at the desk, too, when a hand changes it', () => {
    const desk = openDesk(project('  - hold: 1 s\n'), { loop: 'l', requirements: ['R1'] });
    if (typeof desk === 'string') throw new Error(desk);
    let now = 0;
    const run = new DeskSession(desk.order, () => now);
    const tune = (name: string, value: number): void => {
      run.act({ k: 'tune', slot: desk.assembled.plan.slots.findIndex((one) => one.name === name), value });
    };
    const pass = (seconds: number): void => {
      run.play();
      now += seconds * 1000;
      run.tick();
      run.pause();
    };
    tune('c.limit', 100);
    pass(6);
    expect(run.standings()[0]).toMatchObject({ broken: 0 });
    // It grows to 7 at its rate, and then no further: the limit comes down behind it, and is not held against what was before.
    tune('c.rate', 0);
    pass(1);
    tune('c.limit', 50);
    pass(1);
    expect(run.standings()[0]).toMatchObject({ broken: 0 });
    tune('c.limit', 2);
    pass(1);
    expect(run.standings()[0]).toMatchObject({ broken: 1 });
    tune('c.limit', 100);
    pass(1);
    expect(run.standings()[0]).toMatchObject({ broken: 1 });
  });

  it('is refused where it is built in, outside its limits, or not there', () => {
    const told = (change: string): string[] => project(`  - change: { ${change} }\n`).faults.map((one) => one.message);
    expect(told('c.built: 2')).toEqual(['c.built cannot be changed during a run: its tuning is fixed.']);
    expect(told('c.rate: 11')[0]).toMatch(/outside its limits/);
    expect(told('c.rat: 1')).toEqual(['There is no parameter "c.rat" in the loop l.']);
  });
});

describe('steps side by side', () => {
  it('go on each in its own time; the script goes on when all are over', () => {
    const { result, trace } = runCase(
      project(
        '  - together:\n      - [{ wait: { until: c.y >= 2.95, give_up_after: 9 s } }, { set: { u: 5 } }]\n      - [{ hold: 1 s }, { expect: { holds: c.y >= 2, within: 1 s } }, { hold: 4 s }]\n  - set: { u: 7 }\n',
        { rest: 'parameters: { c.limit: 99 }\n' },
      ),
    );
    const u = column(trace, 'u');
    const at = (t: number): number => u.data[u.time.findLastIndex((one) => one <= t)]!;
    // The second line holds until 6 s.
    expect([at(2.95), at(3.05), at(5.95), at(6.05)]).toEqual([0, 5, 5, 7]);
    expect(expectedOf(result)).toEqual([['c.y >= 2', 1, 2, 'met']]);
  });

  it('are what one line is whose steps the other does not touch', () => {
    const alone = runCase(project('  - wait: { until: c.y >= 2, give_up_after: 9 s }\n  - set: { u: 1 }\n'));
    const beside = runCase(
      project('  - together:\n      - [{ wait: { until: c.y >= 2, give_up_after: 9 s } }, { set: { u: 1 } }]\n      - [{ hold: 4 s }]\n'),
    );
    expect([...column(beside.trace, 'u').data]).toEqual([...column(alone.trace, 'u').data]);
    expect([...column(beside.trace, 'c.y').data]).toEqual([...column(alone.trace, 'c.y').data]);
  });

  it('end with the case where one of them gives up', () => {
    const { result } = runCase(
      project('  - together:\n      - [{ wait: { until: c.y > 99, give_up_after: 1 s } }]\n      - [{ hold: 2 s }, { set: { u: 1 } }]\n', {
        rest: 'parameters: { c.limit: 99 }\n',
      }),
    );
    expect(result.gaveUp).toEqual({ at: 1, text: 'c.y > 99' });
    expect(result.verdict).toBe('inconclusive');
  });
});
