import { describe, expect, it } from 'vitest';
import { emitCUnit } from '@/core/emit/c';
import { checkProject } from '@/core/project';
import { alone, column, projectOf, runCase } from '../support/project';

const fixed = '{ method: runge-kutta-4, step: 10 ms }';
const variable = '{ method: dormand-prince-54, step: 1 s, relative_tolerance: 1e-9, absolute_tolerance: 1e-11 }';

describe('located events', () => {
  // A ball from 1 m at g = 9.81 m/s² meets the floor after √(2 h / g), and leaves it with 0.8 of its speed: the next time 1.6 √(2 h / g) later.
  const ball = `component: Ball
outputs: { height: { type: LREAL, unit: m } }
behaviour:
  kind: equations
  states: { h: { start: 1, unit: m }, v: { start: 0, unit: m/s } }
  derivatives: { h: v, v: "-9.81" }
  events: [{ when: "h <= 0", set: { h: "0", v: "-0.8 * v" } }]
  outputs: { height: h }
`;
  const fall = Math.sqrt(2 / 9.81);

  it.each([fixed, variable])('are found to the nanosecond between steps (%s)', (solver) => {
    const { data, time } = column(runCase(alone(ball, 'Ball', solver, '1.3 s')).trace, 'c.h');
    const bounces = [...time].filter((t, index) => t === time[index - 1] && data[index] === 0);
    expect(bounces).toHaveLength(2);
    expect(bounces[0]).toBeCloseTo(fall, 8);
    expect(bounces[1]).toBeCloseTo(fall + 1.6 * fall, 7);
  });

  it('after the second bounce the ball is where the closed form has it', () => {
    const t = 1.3 - 2.6 * fall;
    const { data } = column(runCase(alone(ball, 'Ball', fixed, '1.3 s')).trace, 'c.h');
    expect(data.at(-1)).toBeCloseTo(0.64 * Math.sqrt(2 * 9.81) * t - (9.81 / 2) * t * t, 7);
  });

  it('have no counterpart in C, and that is said', () => {
    const { plan } = alone(ball, 'Ball', fixed, '1 s').cases[0]!.experiment;
    expect(() => emitCUnit(plan, 'ball')).toThrow('the located event "h <= 0" has no counterpart in C');
  });

  it('that follow themselves without end are told', () => {
    const text = ball.replace('set: { h: "0", v: "-0.8 * v" }', 'set: { h: "1e-15", v: "-1" }');
    expect(runCase(alone(text, 'Ball', fixed, '2 s')).result.error?.message).toMatch(
      /"h <= 0" \(components\/c\.yaml:\d+\) follows itself without end/,
    );
  });
});

const recording = 'time[s],level[m],open\n0,1,FALSE\n0.25,1.5,FALSE\n1,3,TRUE\n2,2,TRUE\n';
const played = `component: Log
outputs: { level: { type: LREAL, unit: m }, open: { type: BOOL } }
behaviour: { kind: recording, file: recordings/a.csv }
`;
const loop = `loop: l\ncomponents: { c: { use: Log } }\nsolver: ${fixed}\nstop: 3 s\n`;
const withRecording = { 'recordings/a.csv': recording, 'components/c.yaml': played, 'loops/l.yaml': loop, 'cases/c.yaml': 'case: c\nloop: l\n' };

describe('a recording', () => {
  it('plays its columns: straight between rows, truths held, the last row to the end', () => {
    const { trace } = runCase(projectOf(withRecording));
    const level = column(trace, 'c.level');
    const at = (t: number): number | undefined => level.data[level.time.lastIndexOf(t)];
    expect(at(0.25)).toBe(1.5);
    expect(at(0.5)).toBeCloseTo(2, 12);
    expect(at(1.5)).toBeCloseTo(2.5, 12);
    expect(at(3)).toBe(2);
    const open = column(trace, 'c.open');
    expect([0.99, 1].map((t) => open.data[open.time.lastIndexOf(t)])).toEqual([0, 1]);
  });

  it.each([
    ['a file that is not there', { 'components/c.yaml': played.replace('a.csv', 'b.csv') }, 'There is no recording "recordings/b.csv".'],
    [
      'a column that is not there',
      { 'components/c.yaml': played.replace('a.csv }', 'a.csv, outputs: { level: livel } }') },
      'The recording has no column "livel".',
    ],
    ['another unit', { 'components/c.yaml': played.replace('unit: m }', 'unit: mm }') }, 'The column level is in m, but c.level is in mm.'],
    ['a faulty file', { 'recordings/a.csv': 'time[s],level[m]\n0,1\n-1,2\n' }, 'The recording cannot be read: the time goes back to −1 s.'],
  ])('%s is told', (_, changed, message) => {
    const files = Object.entries({ 'project.yaml': 'project: p\n', ...withRecording, ...changed }).map(([path, text]) => ({ path, text }));
    expect(checkProject(files).faults.map((fault) => fault.message)).toContain(message);
  });
});

describe('variants', () => {
  const gain = (name: string, k: number): string =>
    `component: ${name}\ninputs: { u: { type: LREAL } }\noutputs: { y: { type: LREAL } }\nparameters: { k: { value: ${k} } }\nbehaviour: { kind: equations, outputs: { y: "k * u" } }\n`;
  const files = {
    'components/a.yaml': gain('Coarse', 2),
    'components/b.yaml': gain('Detailed', 3),
    'components/o.yaml': gain('After', 10),
    'loops/l.yaml': `loop: l\ncomponents: { plant: { use: Coarse }, after: { use: After } }\ninputs: { u: { to: plant.u, start: 1 } }\nwires: [{ from: plant.y, to: after.u }]\nvariants: { detailed: { components: { plant: { use: Detailed } } }, tuned: { components: { plant: { use: Coarse, parameters: { k: 7 } } } } }\nsolver: ${fixed}\nstop: 1 s\n`,
  };
  it.each([
    ['', 20],
    ['variant: detailed\n', 30],
    ['variant: tuned\n', 70],
  ])('stand in the place of a component, wires and order as they were (%s)', (variant, wanted) => {
    const { trace } = runCase(projectOf({ ...files, 'cases/c.yaml': `case: c\nloop: l\n${variant}` }));
    expect(column(trace, 'after.y').data.at(-1)).toBe(wanted);
  });

  it('that do not fit, or are not there, are told where they are named', () => {
    const told = (changed: Record<string, string>): string[] =>
      checkProject(Object.entries({ 'project.yaml': 'project: p\n', ...files, ...changed }).map(([path, text]) => ({ path, text }))).faults.map(
        ({ place, message }) => `${place.file}:${place.line} ${message}`,
      );
    expect(told({ 'cases/c.yaml': 'case: c\nloop: l\nvariant: fine\n' })).toEqual(['cases/c.yaml:3 The loop l has no variant "fine".']);
    expect(told({ 'loops/l.yaml': files['loops/l.yaml'].replace('use: Detailed', 'use: Detaled') })).toContain(
      'loops/l.yaml:5 There is no component "Detaled".',
    );
  });
});

it('a sampled component that is not enabled holds what it gave out', () => {
  const project = projectOf({
    'components/c.yaml': 'component: Count\noutputs: { n: { type: LREAL } }\nbehaviour: { kind: routine, period: 100 ms, body: "n := n + 1.0;" }\n',
    'loops/l.yaml': `loop: l\ncomponents: { c: { use: Count, enabled: run } , g: { use: Gate } }\ninputs: { run: { to: g.u, start: FALSE } }\nsolver: ${fixed}\nstop: 1 s\n`,
    'components/g.yaml':
      'component: Gate\ninputs: { u: { type: BOOL } }\noutputs: { y: { type: BOOL } }\nbehaviour: { kind: routine, period: 100 ms, body: "y := u;" }\n',
    'cases/c.yaml': 'case: c\nloop: l\nstimuli: { run: [{ hold: FALSE }, { step: TRUE, at: 300 ms }, { step: FALSE, at: 600 ms }] }\n',
  });
  expect([...column(runCase(project).trace, 'c.n').data]).toEqual([0, 0, 0, 1, 2, 3, 3, 3, 3, 3, 3]);
});

describe('shared definitions', () => {
  const files = {
    'definitions.yaml': 'constants: { g: { value: 9.81, unit: m/s2 }, wet: { value: TRUE } }\nenumerations: { Mode: [Idle, Run, Hold] }\n',
    'components/a.yaml': 'component: A\noutputs: { y: { type: LREAL } }\nbehaviour: { kind: equations, outputs: { y: "SEL(wet, 0.0, 2 * g)" } }\n',
    'components/b.yaml':
      'component: B\noutputs: { y: { type: INT } }\nbehaviour: { kind: chart, period: 100 ms, regions: { r: { initial: S, states: { S: { entry: "y := Mode#Hold;" } } } } }\n',
    'components/c.yaml':
      'component: C\noutputs: { y: { type: BOOL } }\nbehaviour: { kind: routine, period: 100 ms, body: "VAR m : INT; END_VAR m := Run; y := m = Run AND g > 9.0;" }\n',
    'loops/l.yaml': `loop: l\ncomponents: { a: { use: A }, b: { use: B }, c: { use: C } }\nsolver: ${fixed}\nstop: 1 s\n`,
    'cases/c.yaml': 'case: c\nloop: l\n',
  };
  it('are known in equations, charts and routines', () => {
    const { trace } = runCase(projectOf(files));
    expect(['a.y', 'b.y', 'c.y'].map((name) => column(trace, name).data.at(-1))).toEqual([19.62, 2, 1]);
  });

  it('that stand twice or have no unit are told', () => {
    const told = checkProject(
      Object.entries({
        'project.yaml': 'project: p\n',
        'definitions.yaml': 'constants: { a: { value: 1, unit: furlongs! } }\nenumerations: { M: [A, B] }\n',
      }).map(([path, text]) => ({ path, text })),
    ).faults.map(({ place, message }) => `${place.line}:${place.column} ${message}`);
    expect(told).toEqual(['1:12 The constant "A" has the name of a value of M.', '1:35 "furlongs!" is not a unit.']);
  });
});

describe('random numbers', () => {
  const drawn = (formula: string, seed: number): Float64Array => {
    const project = projectOf({
      'components/c.yaml': `component: C\noutputs: { y: { type: LREAL }, z: { type: LREAL } }\nbehaviour: { kind: routine, period: 10 ms, body: "y := ${formula}; z := ${formula};" }\n`,
      'loops/l.yaml': `loop: l\ncomponents: { c: { use: C } }\nsolver: ${fixed}\nstop: 200 s\n`,
      'cases/c.yaml': `case: c\nloop: l\nseed: ${seed}\n`,
    });
    const { trace } = runCase(project);
    expect([...column(trace, 'c.y').data.subarray(0, 9)]).not.toEqual([...column(trace, 'c.z').data.subarray(0, 9)]);
    return column(trace, 'c.y').data;
  };
  const moments = (data: Float64Array): [number, number] => {
    const mean = data.reduce((a, b) => a + b, 0) / data.length;
    return [mean, Math.sqrt(data.reduce((a, b) => a + (b - mean) ** 2, 0) / data.length)];
  };

  // Mean and deviation of 20,001 draws lie within 4 standard errors (deviation / √n, deviation / √(2 n)) with a probability of 0.9999; seeds are fixed.
  it.each([
    ['DRAW_NORMAL(3.0, 2.0)', 3, 2],
    ['DRAW_UNIFORM(1.0, 4.0)', 2.5, 3 / Math.sqrt(12)],
  ])('%s has its mean and deviation', (formula, mean, deviation) => {
    const [m, d] = moments(drawn(formula, 1));
    expect(Math.abs(m - mean)).toBeLessThan((4 * deviation) / Math.sqrt(20_001));
    expect(Math.abs(d - deviation)).toBeLessThan((4 * deviation) / Math.sqrt(2 * 20_001));
  });

  it('follow from the seed alone', () => {
    const [one, again, other] = [drawn('DRAW_UNIFORM(0.0, 1.0)', 5), drawn('DRAW_UNIFORM(0.0, 1.0)', 5), drawn('DRAW_UNIFORM(0.0, 1.0)', 6)];
    expect(again).toEqual(one);
    expect(other[0]).not.toBe(one[0]);
    expect(Math.min(...one)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...one)).toBeLessThan(1);
  });

  it('are not drawn in continuous parts', () => {
    const text = 'component: C\noutputs: { y: { type: LREAL } }\nbehaviour: { kind: equations, outputs: { y: "DRAW_UNIFORM(0.0, 1.0)" } }\n';
    const { faults } = checkProject([
      { path: 'project.yaml', text: 'project: p\n' },
      { path: 'components/c.yaml', text },
    ]);
    expect(faults.map((fault) => fault.message)).toEqual(['DRAW_UNIFORM can be used in sampled parts only.']);
  });
});
