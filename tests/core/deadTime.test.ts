import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { emitCUnit } from '@/core/emit/c';
import { largestRealPart, linearView } from '@/core/linear';
import { inspectModel } from '@/core/picture';
import { fixedMethods } from '@/core/plan';
import { checkProject } from '@/core/project';
import { LiveRun, simulate } from '@/core/simulate';
import { hashTrace, type Trace } from '@/core/trace';
import { lowerBound, valueAt } from '@/ui/plot/reduce';
import { alone, column, projectOf, runCase } from '../support/project';

const methods = [...fixedMethods, 'bogacki-shampine-32', 'dormand-prince-54', 'rosenbrock-43'];
const solver = (method: string, step: string): string =>
  `{ method: ${method}, step: ${step}${(fixedMethods as readonly string[]).includes(method) ? '' : ', relative_tolerance: 1e-9, absolute_tolerance: 1e-12'} }`;

/** Value at an instant, after any jump there. */
function at(trace: Trace, name: string, t: number): number {
  const { time, data } = column(trace, name);
  return valueAt(time, data, false, t);
}

/** Instants at which a column has two rows. */
function jumps(trace: Trace, name: string): number[] {
  const { time, data } = column(trace, name);
  return [...time].filter((t, row) => time[row + 1] === t && data[row + 1] !== data[row]);
}

/** A loop in which a free input goes through a dead time. */
const late = (seconds: number, course: string, how: string, stop = '10 s'): ReturnType<typeof projectOf> =>
  projectOf({
    'components/late.yaml': `component: Late
inputs: { in: { type: LREAL } }
outputs: { out: { type: LREAL }, twice: { type: LREAL }, chained: { type: LREAL } }
behaviour:
  kind: network
  parts:
    line: { use: dead_time, inputs: { in: in }, parameters: { t: ${seconds}, start: 7 } }
    double: { use: dead_time, inputs: { in: in }, parameters: { t: ${2 * seconds}, start: 7 } }
    chain: { use: dead_time, inputs: { in: line }, parameters: { t: ${seconds}, start: 7 } }
  outputs: { out: line, twice: double, chained: chain }
`,
    'loops/l.yaml': `loop: l\ncomponents: { late: { use: Late } }\ninputs: { u: { to: late.in } }\nunused: [late.out, late.twice, late.chained]\nsolver: ${how}\nstop: ${stop}\n`,
    'cases/c.yaml': `case: only\nloop: l\nstimuli:\n  u: ${course}\n`,
  });

describe('a dead time of continuous values', () => {
  /** x′ = −x(t − 1), x = 1 until 0: polynomials from unit to unit of time (Bellen and Zennaro; worked out by hand). */
  const unit = `component: C
outputs: { y: { type: LREAL } }
behaviour:
  kind: equations
  states: { x: { start: 1 } }
  delays: { late: { of: x, by: "1.0", start: "1.0" } }
  derivatives: { x: "-late" }
  outputs: { y: x }
`;
  it.each(methods)('solves x′ = −x(t − 1) with %s', (method) => {
    const { trace } = runCase(alone(unit, 'C', solver(method, '10 ms'), '3 s'));
    const exact = (t: number): number => 1 - t + (t > 1 ? (t - 1) ** 2 / 2 : 0) - (t > 2 ? (t - 2) ** 3 / 6 : 0);
    const digits = { euler: 1, heun: 4 }[method] ?? 7;
    const { time, data } = column(trace, 'c.y');
    time.forEach((t, row) => {
      expect(data[row]).toBeCloseTo(exact(t), digits);
    });
  });

  it('has the order of its method: half the step of Heun, a quarter of the error', () => {
    const oscillating = unit.replace('derivatives: { x: "-late" }', 'derivatives: { x: "-1.2 * late - 0.3 * x" }');
    const end = (step: string): number => at(runCase(alone(oscillating, 'C', solver('heun', step), '8 s')).trace, 'c.y', 8);
    const [coarse, fine, finest] = [
      end('20 ms'),
      end('10 ms'),
      at(runCase(alone(oscillating, 'C', solver('dormand-prince-54', '50 ms'), '8 s')).trace, 'c.y', 8),
    ];
    expect((coarse - finest) / (fine - finest)).toBeCloseTo(4, 0);
  });

  it('lets every jump out at its very instant, and two in a row are one of both', () => {
    for (const method of methods) {
      const { trace } = runCase(late(0.213, '[{ hold: 1 }, { step: 3, at: 351 ms }, { step: -2, at: 400 ms }]', solver(method, '10 ms'), '2 s'));
      expect(jumps(trace, 'late.out')).toEqual([0.213, 0.351 + 0.213, 0.4 + 0.213].map((t) => Math.round(t * 1e9) / 1e9));
      expect(jumps(trace, 'late.twice')).toEqual(jumps(trace, 'late.chained'));
      for (const [t, value] of [
        [0.2, 7],
        [0.3, 1],
        [0.6, 3],
        [0.7, -2],
      ] as const) {
        expect(at(trace, 'late.out', t)).toBe(value);
      }
    }
  });

  it('is what goes in, so long ago, whatever that is and however it is solved', () => {
    const step = fc.record({ value: fc.double({ min: -5, max: 5, noNaN: true }), ms: fc.integer({ min: 1, max: 1500 }), isRamp: fc.boolean() });
    fc.assert(
      fc.property(
        fc.array(step, { minLength: 1, maxLength: 6 }),
        fc.integer({ min: 20, max: 900 }),
        fc.constantFrom(...methods),
        (steps, ms, method) => {
          let now = 0;
          const pieces = steps.map(({ value, ms: lasts, isRamp }) => {
            const [from, until] = [now + 1, now + lasts + 1];
            now = until;
            return isRamp ? `{ ramp: ${value.toFixed(6)}, from: ${from} ms, until: ${until} ms }` : `{ step: ${value.toFixed(6)}, at: ${from} ms }`;
          });
          const { trace } = runCase(
            late(
              ms / 1000,
              `[{ hold: 1 }, ${pieces.join(', ')}, { sine: 0.5, from: ${now + 10} ms, until: 10 s, period: 1.7 s }]`,
              solver(method, '10 ms'),
            ),
          );
          const input = column(trace, 'u');
          const jumpy = new Set(jumps(trace, 'u').map((t) => Math.round(t * 1000)));
          for (let k = 0; k < 60; k += 1) {
            const t = 0.0037 + k * 0.1618;
            if (t <= ms / 1000 || t > 10) continue;
            // Between rows a sine is not straight; at a row of both it is what was computed.
            const { time, data } = column(trace, 'late.out');
            const row = lowerBound(time, t);
            const instant = time[row] as number;
            const ago = instant - ms / 1000;
            if (instant === undefined || instant > 10 || jumpy.has(Math.round(ago * 1000)) || time[row + 1] === instant) continue;
            const wanted = valueAt(input.time, input.data, false, ago);
            expect(Math.abs((data[row] as number) - wanted)).toBeLessThan(2e-4);
          }
          for (const name of ['late.twice', 'late.chained']) expect(jumps(trace, name)).toEqual(jumps(trace, 'late.twice'));
        },
      ),
      { numRuns: 40 },
    );
  });

  it('is no use of an input that nobody reads, and is told in the drawing', () => {
    const { warnings, faults } = late(0.5, '[{ hold: 1 }]', solver('euler', '10 ms'));
    expect([faults, warnings]).toEqual([[], []]);
    const { picture } = inspectModel(
      [
        { path: 'project.yaml', text: 'project: P\n' },
        { path: 'components/c.yaml', text: unit },
      ],
      'component:C',
    );
    const slipOf = (more: string): string | undefined => {
      const net = `component: N\noutputs: { y: { type: LREAL } }\nbehaviour: { kind: network, parts: { n: { use: dead_time, inputs: { in: 1 }${more} } }, outputs: { y: n } }\n`;
      const drawn = inspectModel(
        [
          { path: 'project.yaml', text: 'project: P\n' },
          { path: 'components/n.yaml', text: net },
        ],
        'component:N',
      ).picture;
      return drawn.k === 'net' ? drawn.slips.find(({ id }) => id === 'n')?.text : undefined;
    };
    expect(slipOf(', parameters: { t: 2.5, start: 4 }')).toMatch(/^2\.5 s later, first 4/);
    expect(slipOf(', settings: { hits: 3 }')).toMatch(/^3 hits later/);
    expect(slipOf('')).toMatch(/^dead time/);
    expect(picture).toMatchObject({ k: 'equations', lines: expect.arrayContaining([{ left: 'late', right: 'x, 1.0 s ago' }]) });
  });

  it('is the same run by hand, piece by piece', () => {
    for (const method of ['runge-kutta-4', 'euler']) {
      const project = late(0.25, '[{ hold: 1 }, { step: 3, at: 1 s }]', solver(method, '10 ms'));
      const { experiment } = project.cases[0]!;
      const live = new LiveRun({ ...experiment, stimuli: [] });
      live.goOn(400e6);
      live.act({ k: 'set', input: 0, value: 2 });
      for (let ns = 500e6; ns <= 10e9; ns += 370e6) live.goOn(Math.min(ns, 10e9));
      live.goOn(10e9);
      const stimuli = live.events.flatMap((event) =>
        event.k === 'set' ? [{ atNs: event.atNs, input: event.input, value: event.value, slope: 0 }] : [],
      );
      expect(stimuli.length).toBe(1);
      expect(hashTrace(live.trace())).toBe(hashTrace(simulate({ ...experiment, stimuli }).trace));
    }
  });

  it('drives a loop with a sampled controller and events', () => {
    const project = projectOf({
      'components/plant.yaml': `component: Plant
inputs: { heat: { type: LREAL } }
outputs: { temperature: { type: LREAL } }
behaviour:
  kind: equations
  states: { x: { start: 20 }, count: { start: 0 } }
  delays: { pipe: { of: heat, by: "2.0" } }
  derivatives: { x: "(pipe - (x - 20.0)) / 5.0", count: "0.0" }
  events: [{ when: "x > 60.0", set: { count: "count + 1.0" } }]
  outputs: { temperature: x }
`,
      'components/law.yaml':
        'component: Law\ninputs: { t: { type: LREAL } }\noutputs: { heat: { type: LREAL } }\nbehaviour: { kind: routine, period: 500 ms, body: "heat := SEL(t < 50.0, 0.0, 80.0);" }\n',
      'loops/l.yaml':
        'loop: l\ncomponents: { plant: { use: Plant }, law: { use: Law } }\nwires: [{ from: plant.temperature, to: law.t }, { from: law.heat, to: plant.heat }]\nsolver: { method: dormand-prince-54, step: 100 ms, relative_tolerance: 1e-8 }\nstop: 60 s\n',
      'cases/c.yaml': 'case: only\nloop: l\n',
    });
    const { trace } = runCase(project);
    const peak = Math.max(...column(trace, 'plant.temperature').data);
    // Heat that is already in the pipe comes on for 2 s: from the first hit at 50 °C or above the rest of the way to 100 is shortened by exp(−2/5) … exp(−2.5/5).
    const overshoot = [2, 2.5].map((t) => 100 - 50 * Math.exp(-t / 5));
    expect(peak).toBeGreaterThan(overshoot[0]! - 1e-6);
    expect(peak).toBeLessThan(overshoot[1]! + 1e-6);
  });

  it('is refused where it is shorter than the step, in C and in a linear view, and lasts no longer or shorter as a run goes on', () => {
    const short = late(0.005, '[{ hold: 1 }]', solver('runge-kutta-4', '10 ms'));
    expect(runCase(short).result.error?.message).toMatch(
      /^the dead time late\.line\.late is 0.005 s, which is less than the step of 0.01 s of runge-kutta-4; make it longer, or the step shorter$/,
    );
    const { experiment } = late(0.5, '[{ hold: 1 }]', solver('runge-kutta-4', '10 ms')).cases[0]!;
    expect(() => linearView(experiment, { at: 0 } as Parameters<typeof linearView>[1])).toThrow(/is a dead time, which has poles without number/);
    expect(largestRealPart(experiment, 0)).toMatchObject({ why: expect.stringMatching(/is a dead time/) });
    expect(() => emitCUnit(experiment.plan, 'u')).toThrow(/has no counterpart in C/);
    const wrong = checkProject([
      { path: 'project.yaml', text: 'project: P\n' },
      { path: 'components/c.yaml', text: unit.replace('by: "1.0"', 'by: x') },
    ]);
    expect(wrong.faults.map(({ message }) => message)).toEqual([expect.stringMatching(/x/)]);
    const hits = `component: N\noutputs: { y: { type: LREAL } }\nbehaviour: { kind: network, parts: { n: { use: dead_time, inputs: { in: 1 }, settings: { hits: 3 } } }, outputs: { y: n } }\n`;
    const told = checkProject([
      { path: 'project.yaml', text: 'project: P\n' },
      { path: 'components/n.yaml', text: hits },
      { path: 'loops/l.yaml', text: 'loop: l\ncomponents: { n: { use: N } }\nunused: [n.y]\nsolver: { method: euler, step: 10 ms }\nstop: 1 s\n' },
    ]).faults;
    expect(told.map(({ message }) => message)).toContainEqual(
      expect.stringMatching(/hits counts the hits of a sampled network; this one is continuous/),
    );
  });
});
