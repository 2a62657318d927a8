import { Matrix } from 'ml-matrix';
import { describe, expect, it } from 'vitest';
import { ContinuousPart, linearise, linearView, polesOf, stabilityOf, steadyState, transferFunctionOf } from '@/core/linear';
import { checkProject } from '@/core/project';
import type { Experiment } from '@/core/simulate';
import { demoFiles, projectOf } from '../support/project';

function experimentOf(component: string, inputs: string, more: Readonly<Record<string, string>> = {}): Experiment {
  const project = projectOf({
    'components/c.yaml': component,
    'loops/l.yaml': `loop: l\ncomponents: { c: { use: C } }\ninputs: { ${inputs} }\nsolver: { method: dormand-prince-54, step: 1 s }\nstop: 10 s\n`,
    'cases/c.yaml': 'case: only\nloop: l\n',
    ...more,
  });
  expect(project.faults).toEqual([]);
  return project.cases[0]!.experiment;
}

const tank = `component: C
inputs: { valve: { type: LREAL, unit: "%", min: 0, max: 100 } }
outputs: { level: { type: LREAL, unit: m } }
behaviour:
  kind: equations
  states: { h: { start: 1 } }
  derivatives: { h: "valve / 100 - 0.2 * SQRT(MAX(h, 0.0001))" }
  outputs: { level: h }
`;
const pendulum = `component: C
inputs: { torque: { type: LREAL } }
outputs: { angle: { type: LREAL } }
behaviour:
  kind: equations
  states: { a: { start: START }, w: { start: 0 } }
  derivatives: { a: w, w: "torque - 9.81 * SIN(a) - 0.4 * w" }
  outputs: { angle: a }
`;

describe('the linear view', () => {
  it('finds where a tank comes to rest and how it answers there', () => {
    const part = new ContinuousPart({ ...experimentOf(tank, 'valve: { to: c.valve }'), stimuli: [{ atNs: 0, input: 0, value: 30, slope: 0 }] });
    const steady = steadyState(part);
    // 0.3 = 0.2 √h
    expect(steady.isSteady).toBe(true);
    expect(steady.x[0]).toBeCloseTo(2.25, 8);
    const system = linearise(part, steady.x, [0], [0]);
    const { numerator, denominator } = transferFunctionOf(system);
    // dh' = 0.01 du − 0.1 / √h dh
    expect(denominator[1]).toBeCloseTo(0.1 / 1.5, 7);
    expect(numerator[1]).toBeCloseTo(0.01, 8);
  });

  it.each([
    ['0.1', 'stable'],
    ['3.0', 'unstable'],
  ])('a pendulum begun at %s rad rests in a point that is %s', (start, wanted) => {
    const part = new ContinuousPart(experimentOf(pendulum.replace('START', start), 'torque: { to: c.torque }'));
    const steady = steadyState(part);
    expect(steady.isSteady).toBe(true);
    expect(Math.sin(steady.x[0]!)).toBeCloseTo(0, 8);
    const poles = polesOf(linearise(part, steady.x, [0], [0]).a);
    expect(stabilityOf(poles)).toBe(wanted);
    if (wanted === 'stable') expect(poles[0]!.frequency).toBeCloseTo(Math.sqrt(9.81), 6);
  });

  it('calls a pole zero that is off by rounding only, and no other', () => {
    // What flows around a ring of three is neither lost nor won: one pole at 0, two at -3/2 ± i √3/2 (its circulant's discrete Fourier transform).
    const ring = new Matrix([
      [-1, 1, 0],
      [0, -1, 1],
      [1, 0, -1],
    ]).mul(0.37);
    const [still, ...turning] = polesOf(ring);
    expect(still).toEqual({ re: 0, im: 0, frequency: 0, damping: 0 });
    for (const { re, im } of turning)
      expect([re, Math.abs(im)].map((part) => Number(part.toFixed(12)))).toEqual([-0.555, Number((0.37 * Math.sqrt(0.75)).toFixed(12))]);
    expect(polesOf(new Matrix([[-1e-9]]))[0]?.re).toBe(-1e-9);
    expect(
      polesOf(
        new Matrix([
          [-1e-9, 0],
          [0, -1e3],
        ]),
      )[0]?.re,
    ).toBe(-1e-9);
  });

  it('says which state still moves where there is no rest', () => {
    const part = new ContinuousPart(experimentOf(tank.replace('0.2 * SQRT(MAX(h, 0.0001))', '0.5'), 'valve: { to: c.valve }'));
    const steady = steadyState(part);
    expect(steady).toMatchObject({ isSteady: false, fastest: { state: 'c.h', perSecond: -0.5 } });
  });

  it('takes what sampled parts hold as inputs, at any instant of a case', async () => {
    const project = checkProject(await demoFiles());
    const test = project.cases.find((one) => one.experiment.case === 'Upward transit, calm water')!;
    const part = new ContinuousPart(test.experiment, 150);
    const drive = part.drives.findIndex((one) => one.name === 'law.fill_cmd');
    const level = part.signals.findIndex((one) => one.name === 'chamber.rate');
    expect(part.drive(drive)).toBeGreaterThan(0);
    const system = linearise(part, part.x0, [drive], [level]);
    expect(system.a.rows).toBe(part.states.length);
    // More opening, more rate: the gain at rest of rate over command is positive; the paddle's own pole is among those of the loop.
    expect(transferFunctionOf(system).numerator.some((value) => value > 0)).toBe(true);
    // The four transmitters damp with 4 s.
    expect(polesOf(system.a).filter((pole) => Math.abs(pole.re + 1 / 4) < 1e-6)).toHaveLength(4);
  });

  it('sees only what the drive reaches and the signal sees', () => {
    const two = tank
      .replace('states: { h: { start: 1 } }', 'states: { h: { start: 1 }, other: { start: 0 } }')
      .replace('derivatives: { h:', 'derivatives: { other: "1 - other", h:');
    const answer = linearView(
      { ...experimentOf(two, 'valve: { to: c.valve }'), stimuli: [{ atNs: 0, input: 0, value: 30, slope: 0 }] },
      { at: 0, steady: true, signal: 'c.level', period: 0.5 },
    );
    expect(answer.poles).toHaveLength(2);
    expect(answer.transfer.denominator).toHaveLength(2);
    expect(answer.sampled?.hold.denominator[1]).toBeCloseTo(-Math.exp(-0.5 * (0.1 / 1.5)), 7);
    expect(answer.step.value.at(-1)).toBeCloseTo((0.01 / (0.1 / 1.5)) * (1 - Math.exp(-6)), 6);
    expect(answer.words).toBe('At its equilibrium the plant is stable; the slowest mode takes 15 s to fall to 37 %.');
    // A drive that does nothing to a signal leaves a gain of 0, and no states.
    const none = linearView(experimentOf(two, 'valve: { to: c.valve }'), { at: 0, steady: false, signal: 'c.other', period: 0.5 });
    expect(none.transfer).toEqual({ numerator: [0], denominator: [1] });
    expect(none.sampled?.tustin).toEqual({ numerator: [0], denominator: [1] });
    expect(none.margins).toEqual({});
  });

  it('a run that fails says so', () => {
    const failing = experimentOf(tank.replace('SQRT(MAX(h, 0.0001))', 'SQRT(h - 5.0)'), 'valve: { to: c.valve }');
    expect(() => new ContinuousPart(failing, 1)).toThrow(/root|SQRT/i);
  });
});

describe('without a choice of ours', () => {
  // Two tanks: the first drive acts on the second level only, the first signal is reached by the second drive only.
  const tanks = `component: C
inputs: { alarm: { type: LREAL }, valve: { type: LREAL }, feed: { type: LREAL } }
outputs: { outside: { type: LREAL }, left: { type: LREAL }, right: { type: LREAL } }
behaviour:
  kind: equations
  states: { o: { start: 1 }, a: { start: 1 }, b: { start: 1 } }
  derivatives: { o: "-o", a: "feed - a", b: "valve - b" }
  outputs: { outside: o, left: a, right: b }
`;
  const experiment = () => experimentOf(tanks, 'alarm: { to: c.alarm }, valve: { to: c.valve }, feed: { to: c.feed }');
  it('takes a drive and a signal of which the one acts on the other', () => {
    const answer = linearView(experiment(), { at: 0, steady: false });
    expect([answer.drive, answer.signal]).toEqual(['valve', 'c.b']);
    expect(answer.transfer.numerator.at(-1)).toBeCloseTo(1, 6);
    const seen = linearView(experiment(), { at: 0, steady: false, signal: 'c.a' });
    expect([seen.drive, seen.signal]).toEqual(['feed', 'c.a']);
  });
  it('says so where the two that were chosen have nothing to do with each other', () => {
    const { words, transfer } = linearView(experiment(), { at: 0, steady: false, drive: 'feed', signal: 'c.b' });
    expect(words).toContain('feed does not act on c.b here.');
    expect(transfer.numerator.every((value) => value === 0)).toBe(true);
  });
});
