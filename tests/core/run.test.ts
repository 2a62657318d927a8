import { describe, expect, it } from 'vitest';
import { column, projectOf, runCase } from '../support/project';

const loop = (rest: string, inputs = '', stop = '10 s'): string =>
  `loop: l\ncomponents:\n${rest}\n${inputs ? `inputs:\n${inputs}\n` : ''}solver: { method: runge-kutta-4, step: 100 ms }\nstop: ${stop}\n`;

const follower = `
component: Follower
inputs: { u: { type: LREAL }, go: { type: BOOL } }
outputs: { y: { type: LREAL }, n: { type: INT } }
behaviour:
  kind: chart
  period: 1 s
  regions:
    r:
      initial: Wait
      states:
        Wait: { stay: "y := u;", go: [{ to: Count, when: go }] }
        Count: { entry: "n := n + 1;", go: [{ to: Wait, after: 2 s }] }
`;
const integrator = `
component: Integrator
inputs: { u: { type: LREAL } }
outputs: { x: { type: LREAL, min: 0, max: 3 } }
behaviour: { kind: equations, states: { s: { start: 0 } }, derivatives: { s: u }, outputs: { x: s } }
`;

function world(test: string): ReturnType<typeof projectOf> {
  return projectOf({
    'components/f.yaml': follower,
    'components/i.yaml': integrator,
    'loops/l.yaml': `loop: l\ncomponents:\n  i: { use: Integrator }\n  f: { use: Follower }\ninputs:\n  u: { to: i.u }\n  go: { to: f.go }\nwires: [{ from: i.x, to: f.u }]\nsolver: { method: runge-kutta-4, step: 100 ms }\nstop: 10 s\n`,
    'cases/c.yaml': `case: c\nloop: l\n${test}`,
  });
}

describe('time and hits', () => {
  it('hits are k = 0 … stop / period, the instant of stop included, with times that are never summed up', () => {
    const { trace } = runCase(world(''));
    expect([...column(trace, 'f.y').time]).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
    expect(column(trace, 'u').time.includes(0.3)).toBe(true);
  });

  it('at a hit, stimuli change first; a task sees the continuous values of that very instant', () => {
    const { trace } = runCase(world('stimuli: { u: [{ step: 1, at: 2 s }] }\n'));
    expect(Array.from(column(trace, 'f.y').data, (y) => Number(y.toFixed(12)))).toEqual([0, 0, 0, 1, 2, 3, 4, 5, 6, 7, 8]);
  });

  it('a stimulus breakpoint inside a step shortens that one step, then the grid goes on', () => {
    const { trace } = runCase(world('stimuli: { u: [{ step: 1, at: 250 ms }] }\n'));
    const { time, data } = column(trace, 'i.x');
    expect([...time].slice(0, 6)).toEqual([0, 0.1, 0.2, 0.25, 0.25, 0.3]);
    expect(data[5]).toBeCloseTo(0.05, 12);
  });

  it('a ramp is straight between its ends', () => {
    const { trace } = runCase(world('stimuli: { u: [{ hold: 1 }, { ramp: 3, from: 1 s, until: 2 s }] }\n'));
    const { time, data } = column(trace, 'u');
    expect(data[time.indexOf(1.5)]).toBeCloseTo(2, 12);
    expect(data.at(-1)).toBe(3);
    // ∫ = 1 + 2 + 3 · 8
    expect(column(trace, 'i.x').data.at(-1)).toBeCloseTo(27, 9);
  });

  it('records both sides of a jump', () => {
    const { trace } = runCase(world('stimuli: { u: [{ step: 1, at: 2 s }] }\n'));
    const { time, data } = column(trace, 'u');
    const at = time.indexOf(2);
    expect([time[at], time[at + 1], data[at], data[at + 1]]).toEqual([2, 2, 0, 1]);
  });
});

describe('charts', () => {
  it('"after" fires at the first hit with enough time elapsed; stay actions need the state throughout', () => {
    const { trace } = runCase(world('stimuli: { u: [{ hold: 1 }], go: [{ hold: FALSE }, { step: TRUE, at: 2 s }, { step: FALSE, at: 3 s }] }\n'));
    expect([...column(trace, 'f.r').data]).toEqual([1, 1, 2, 2, 1, 1, 1, 1, 1, 1, 1]);
    expect(Array.from(column(trace, 'f.y').data, (y) => Math.round(y))).toEqual([0, 1, 1, 1, 1, 5, 6, 7, 8, 9, 10]);
  });

  it('leaves inside out, enters outside in, inner transitions pre-empt outer ones, regions run side by side', () => {
    const text = `
component: Nest
outputs: { log: { type: DINT } }
inputs: { a: { type: BOOL }, b: { type: BOOL } }
behaviour:
  kind: chart
  period: 1 s
  regions:
    main:
      initial: Outer
      states:
        Outer:
          entry: "log := log * 10 + 1;"
          exit: "log := log * 10 + 4;"
          go: [{ to: Done, when: a OR b, do: "log := log * 10 + 5;" }]
          initial: In1
          states:
            In1: { entry: "log := log * 10 + 2;", exit: "log := log * 10 + 3;", go: [{ to: In2, when: a }] }
            In2: { exit: "log := log * 10 + 7;" }
        Done: { entry: "log := log * 10 + 6;" }
    side: { initial: S, states: { S: { go: [{ to: T, when: main.Done }] }, T: {} } }
`;
    const files = (b: string) => ({
      'components/n.yaml': text,
      'loops/l.yaml': loop('  n: { use: Nest }', '  a: { to: n.a }\n  b: { to: n.b }', '3 s'),
      'cases/c.yaml': `case: c\nloop: l\nstimuli: { ${b}: [{ hold: FALSE }, { step: TRUE, at: 2 s }] }\n`,
    });
    const outer = runCase(projectOf(files('b'))).trace;
    expect(column(outer, 'n.log').data.at(-1)).toBe(123456);
    expect([...column(outer, 'n.side').data]).toEqual([1, 1, 2, 2]);
    // a: In1 → In2 first (inner wins), then Outer → Done, in one hit: 12 · 3 · 7 4 5 6
    expect(column(runCase(projectOf(files('a'))).trace, 'n.log').data.at(-1)).toBe(1237456);
  });

  it('a livelock ends the run with an error that names the chart', () => {
    const text =
      'component: Live\nbehaviour: { kind: chart, period: 1 s, regions: { r: { initial: A, states: { A: { go: [{ to: B, when: TRUE }] }, B: { go: [{ to: A, when: TRUE }] } } } } }\n';
    const { result } = runCase(
      projectOf({ 'components/n.yaml': text, 'loops/l.yaml': loop('  n: { use: Live }'), 'cases/c.yaml': 'case: c\nloop: l\n' }),
    );
    expect(result.verdict).toBe('error');
    expect(result.error?.message).toContain('livelock');
  });

  it('an event that ends within one hit is still seen by "enters"', () => {
    const text =
      'component: Brief\ninputs: { a: { type: BOOL } }\nbehaviour: { kind: chart, period: 1 s, regions: { r: { initial: A, states: { A: { go: [{ to: B, when: a AND NOT done }] }, B: { exit: "done := TRUE;", go: [{ to: A, when: TRUE }] } } } }, variables: { done: { type: BOOL } } }\n';
    const project = projectOf({
      'components/n.yaml': text,
      'loops/l.yaml': loop('  n: { use: Brief }', '  a: { to: n.a }'),
      'cases/c.yaml': 'case: c\nloop: l\nstimuli: { a: [{ step: TRUE, at: 2 s }] }\n',
      'requirements/r.yaml':
        'section: s\nrequirements: [{ requirement: R1, text: t, criteria: [{ criterion: c, sentence: "when enters r.B, n.done", accepted: { by: t, on: "2026-11-01" } }] }]\n',
    });
    expect(runCase(project).result.results[0]).toMatchObject({ verdict: 'pass', obligations: [{ from: 2, outcome: 'met' }] });
  });
});

describe('scripts and ranges', () => {
  it('waits until a condition comes true, and gives up in time', () => {
    const script = (limit: number): string =>
      `script:\n  - set: { u: 1 }\n  - wait: { until: "i.x >= 2.05", give_up_after: ${limit} s }\n  - set: { u: 0 }\n`;
    const reached = runCase(world(script(8)));
    expect(reached.result.gaveUp).toBeUndefined();
    // The wait looks at every instant of the run: hits at whole seconds.
    expect(column(reached.trace, 'i.x').data.at(-1)).toBeCloseTo(3, 9);
    const vain = runCase(world(script(1.5))).result;
    expect(vain.gaveUp).toEqual({ at: 1.5, text: 'i.x >= 2.05' });
    expect(vain.verdict).toBe('inconclusive');
  });

  it('tells a value outside its declared range, once, with the first instant', () => {
    const { result } = runCase(world('stimuli: { u: [{ hold: 1 }] }\n'));
    expect(result.implausible).toHaveLength(1);
    expect(result.implausible[0]?.message).toBe('implausible value: i.x 3.1 at 3.1 s, allowed 0…3');
  });

  it('an infinite state ends the run with an error', () => {
    const text = 'component: Grow\nbehaviour: { kind: equations, states: { s: { start: 1 } }, derivatives: { s: "s * s * 100" } }\n';
    const { result } = runCase(
      projectOf({ 'components/n.yaml': text, 'loops/l.yaml': loop('  n: { use: Grow }'), 'cases/c.yaml': 'case: c\nloop: l\n' }),
    );
    expect(result.error?.message).toContain('n.s became');
  });

  it('the same experiment gives the same bytes, another parameter another fingerprint', () => {
    const [a, b] = [runCase(world('stimuli: { u: [{ hold: 1 }] }\n')).result, runCase(world('stimuli: { u: [{ hold: 1 }] }\n')).result];
    expect(a).toEqual(b);
    expect(runCase(world('stimuli: { u: [{ hold: 2 }] }\n')).result.fingerprint).not.toBe(a.fingerprint);
  });
});
