import { describe, expect, it } from 'vitest';
import { probe, probeWords } from '@/core/compare';
import { projectOf } from '../support/project';

const project = projectOf({
  'components/tank.yaml':
    'component: Tank\ninputs: { inflow: { type: LREAL }, drain: { type: BOOL } }\noutputs: { level: { type: LREAL, unit: m }, room: { type: LREAL, unit: m }, wave: { type: LREAL }, fixed: { type: LREAL } }\nbehaviour:\n  kind: equations\n  states: { h: { start: 1 }, a: { start: 0 }, b: { start: 0 } }\n  derivatives: { h: "inflow - SEL(drain, 0.0, 0.3) - 0.1 * h", a: "b", b: "inflow - a" }\n  outputs: { level: h, room: 9 - h, wave: "b", fixed: 4.0 }\n',
  'loops/tank.yaml':
    'loop: tank\ncomponents: { tank: { use: Tank } }\ninputs: { inflow: { to: tank.inflow }, drain: { to: tank.drain } }\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 40 s\n',
  'cases/c.yaml': 'case: c\nloop: tank\nstimuli: { inflow: [{ hold: 0.1 }, { ramp: 0.3, from: 5 s, until: 15 s }], drain: [{ hold: false }] }\n',
});
const { experiment } = project.cases[0]!;
const of = (name: string) => experiment.plan.inputs.findIndex((one) => one.name === name);
const ways = (input: string, at: number, by: number) =>
  Object.fromEntries(probe(experiment, { input: of(input), at, by }).map((one) => [one.name, one]));

describe('an input pushed', () => {
  it('tells which signals rise, fall, go both ways or stay, and from when', () => {
    const found = ways('inflow', 10, 0.2);
    expect(found['tank.level']).toMatchObject({ way: 'rises', unit: 'm' });
    // dh' = 0.2 − 0.1 dh: after 30 s it is 2 (1 − e⁻³) higher.
    expect(found['tank.level']!.largest).toBeCloseTo(2 * (1 - Math.exp(-3)), 4);
    expect(found['tank.level']!.from).toBeGreaterThanOrEqual(10);
    expect(found['tank.level']!.from).toBeLessThan(10.1);
    expect(found['tank.room']!.way).toBe('falls');
    expect(found['tank.wave']!.way).toBe('goes both ways');
    expect(found['tank.fixed']).toMatchObject({ way: 'stays', largest: 0 });
    expect(found.inflow).toBeUndefined();
  });

  it('says of a chart that it is in another state, and puts all in a sentence', () => {
    const chart = projectOf({
      'components/c.yaml':
        'component: C\ninputs: { go: { type: BOOL } }\noutputs: { y: { type: LREAL } }\nbehaviour:\n  kind: chart\n  period: 100 ms\n  regions: { r: { initial: A, states: { A: { go: [{ to: B, when: go }] }, B: { entry: "y := 2.0;", go: [{ to: A, when: NOT go, do: "y := 0.0;" }] } } } }\n',
      'loops/l.yaml':
        'loop: l\ncomponents: { c: { use: C } }\ninputs: { go: { to: c.go } }\nsolver: { method: runge-kutta-4, step: 100 ms }\nstop: 10 s\n',
      'cases/c.yaml': 'case: c\nloop: l\n',
    });
    const push = { input: 0, at: 5, by: 1 };
    const found = probe(chart.cases[0]!.experiment, push);
    expect(found.find((one) => one.name === 'c.r')).toMatchObject({ way: 'in another state', largest: 0 });
    expect(found.find((one) => one.name === 'c.y')).toMatchObject({ way: 'rises', largest: 2 });
    expect(probeWords('go', push, found)).toBe('go, pushed at 5 s: of 2 signals 1 rises, 1 is in another state.');
    expect(probeWords('go', push, [])).toBe('go, pushed at 5 s: nothing answers.');
  });

  it('turns a truth over', () => {
    expect(ways('drain', 20, 1)['tank.level']!.way).toBe('falls');
  });

  it('says from which row on, in hours of time, and sees what lasts one hit only', () => {
    // Every 7 s it shows whether the input has risen since the last hit: one hit of 2,057.
    const long = projectOf({
      'components/c.yaml':
        'component: C\ninputs: { u: { type: LREAL } }\noutputs: { rose: { type: BOOL }, twice: { type: LREAL } }\nbehaviour:\n  kind: routine\n  period: 7 s\n  body: |\n    VAR last : LREAL; END_VAR\n    rose := u > last;\n    last := u;\n    twice := 2.0 * u;\n',
      'loops/l.yaml':
        'loop: l\ncomponents: { c: { use: C } }\ninputs: { u: { to: c.u } }\nunused: [c.rose, c.twice]\nsolver: { method: runge-kutta-4, step: 1 s }\nstop: 4 h\n',
      'cases/c.yaml': 'case: c\nloop: l\n',
    });
    expect(long.faults).toEqual([]);
    const found = Object.fromEntries(probe(long.cases[0]!.experiment, { input: 0, at: 5_000, by: 1 }).map((one) => [one.name, one]));
    // The first hit at or after the push is number 715, at 5,005 s.
    expect(found['c.twice']).toMatchObject({ way: 'rises', from: 5_005, largest: 2 });
    expect(found['c.rose']).toMatchObject({ way: 'rises', from: 5_005, largest: 1 });
  });

  it('refuses a push outside the run', () => {
    expect(() => probe(experiment, { input: 0, at: 40, by: 1 })).toThrow('between 0 and 40 s');
  });
});
