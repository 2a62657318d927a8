import { describe, expect, it } from 'vitest';
import { Progress } from '@/core/simulate';
import { alone, column, runCase } from '../support/project';

const decay = `component: C
outputs: { y: { type: LREAL } }
behaviour: { kind: equations, states: { x: { start: 1 } }, derivatives: { x: "-x" }, outputs: { y: x } }
`;
const ball = `component: C
outputs: { y: { type: LREAL } }
behaviour:
  kind: equations
  states: { h: { start: 10 }, v: { start: 0 } }
  derivatives: { h: v, v: "-9.81" }
  outputs: { y: h }
  events: [{ when: "h <= 0.0 AND v < 0.0", set: { v: "-0.8 * v" } }]
`;
const pump = `component: C
outputs: { y: { type: LREAL } }
behaviour:
  kind: equations
  states: { level: { start: 1 }, on: { start: 0 } }
  derivatives: { level: "0.5 * on - 0.2 * level", on: "0.0" }
  outputs: { y: level }
  events: [{ when: "level <= 0.5", set: { on: "1.0" } }, { when: "level >= 1.5", set: { on: "0.0" } }]
`;
const atEnd = (solver: string, until: string): number => column(runCase(alone(decay, 'C', solver, until)).trace, 'c.y').data.at(-1)!;
/** Instants at which a column has two rows, which are the events. */
const events = (solver: string, component: string): number[] => {
  const { time } = column(runCase(alone(component, 'C', solver, '20 s')).trace, 'c.y');
  return [...time].filter((t, i) => i > 0 && t === time[i - 1] && t < 20);
};

describe('methods of a loop', () => {
  it.each([
    ['euler', 1],
    ['heun', 2],
    ['runge-kutta-4', 4],
  ] as const)('%s has order %i', (method, order) => {
    const error = (ms: number): number => Math.abs(atEnd(`{ method: ${method}, step: ${ms} ms }`, '1 s') - Math.exp(-1));
    expect(Math.log2(error(20) / error(10))).toBeCloseTo(order, 1);
  });

  it.each(['bogacki-shampine-32', 'dormand-prince-54', 'rosenbrock-43'])(
    '%s keeps its tolerance, and its events are those of the closed form',
    (method) => {
      const solver = `{ method: ${method}, step: 1 s, relative_tolerance: 1e-10, absolute_tolerance: 1e-12 }`;
      expect(atEnd(solver, '5 s')).toBeCloseTo(Math.exp(-5), 8);
      // Falls for √(2h/g), then each flight is 0.8 times as long as the one before.
      const fall = Math.sqrt(20 / 9.81);
      const bounces = [0, 1, 2, 3, 4].map((n) => fall + (2 * fall * (0.8 * (1 - 0.8 ** n))) / 0.2);
      events(solver, ball)
        .slice(0, 5)
        .forEach((t, n) => {
          expect(Math.abs(t - bounces[n]!)).toBeLessThan(1e-8);
        });
      // level' = 0.5 − 0.2 level rises from 0.5 to 1.5 in 5 ln 2, level' = −0.2 level falls back in 5 ln 3.
      const [rise, drop] = [5 * Math.log(2), 5 * Math.log(3)];
      const switched = events(solver, pump);
      [5 * Math.log(2), 5 * Math.log(2) + rise, 5 * Math.log(2) + rise + drop].forEach((t, n) => {
        expect(Math.abs(switched[n]! - t)).toBeLessThan(1e-8);
      });
    },
  );

  it('holds a state of small values to a tolerance of its own', () => {
    const small = `component: C
outputs: { y: { type: LREAL } }
behaviour: { kind: equations, states: { s: { start: 1e-6 }, c: { start: 0 } }, derivatives: { s: "c", c: "-25.0 * s" }, outputs: { y: s } }
`;
    const error = (tolerances: string): number => {
      const { trace } = runCase(alone(small, 'C', `{ method: dormand-prince-54, step: 1 s, absolute_tolerance: 1e-7${tolerances} }`, '10 s'));
      return Math.abs(column(trace, 'c.y').data.at(-1)! - 1e-6 * Math.cos(50));
    };
    expect(error('')).toBeGreaterThan(1e-8);
    expect(error(', tolerances: { c.s: { absolute: 1e-13 }, c.c: { absolute: 1e-12, relative: 1e-7 } }')).toBeLessThan(1e-11);
  });

  const relay = (slope: string): string => `component: C
outputs: { y: { type: LREAL } }
behaviour: { kind: equations, states: { x: { start: 1 }, z: { start: 0 } }, derivatives: { x: "${slope}", z: x }, outputs: { y: x } }
`;
  it.each(['bogacki-shampine-32', 'dormand-prince-54', 'rosenbrock-43'])(
    '%s says where a run slides over a jump, and which state is pushed',
    (method) => {
      const { result } = runCase(alone(relay('SEL(x > 0.0, 1.0, -1.0)'), 'C', `{ method: ${method}, step: 1 s }`, '4 s'));
      expect(result.error?.message).toMatch(
        /^the run slides at 1(\.00\d+)? s: c\.x is pushed to and fro in steps of .* (s|µs|ns)\. Give what switches there a hysteresis/,
      );
    },
  );

  it('an explicit method on a stiff loop, which goes to and fro in short steps as well, gets on', () => {
    const { result, trace } = runCase(alone(relay('3.0e6 * (COS(time) - x)'), 'C', '{ method: dormand-prince-54, step: 1 s }', '30 ms'));
    expect(result.error).toBeUndefined();
    expect(column(trace, 'c.y').data.length).toBeGreaterThan(10_000);
    expect(column(trace, 'c.y').data.at(-1)).toBeCloseTo(Math.cos(0.03), 5);
  });

  it('tells a steep slope from one that jumps, though both turn a state round at every step', () => {
    const stuck = (slope: (x: number) => number): number | undefined => {
      const progress = new Progress(1, 1, (_, x, dx) => dx.set([slope(x[0]!)]));
      return Array.from({ length: 10_000 }, (__, i) => progress.step(i * 1e-9, Float64Array.of(i % 2 === 0 ? 1e-9 : -1e-9))?.state).find(
        (one) => one !== undefined,
      );
    };
    expect(stuck((x) => -2e9 * x)).toBeUndefined();
    expect(stuck((x) => (x > 0 ? -1 : 1))).toBe(0);
  });

  it('a step that collapses names the state that asks for it', () => {
    const blowUp = `component: C
outputs: { y: { type: LREAL } }
behaviour: { kind: equations, states: { calm: { start: 1 }, wild: { start: 1 } }, derivatives: { calm: "-calm", wild: "wild * wild" }, outputs: { y: wild } }
`;
    const { result } = runCase(alone(blowUp, 'C', '{ method: dormand-prince-54, step: 1 s }', '2 s'));
    expect(result.error?.message).toMatch(/step became too small.*c\.wild/);
    // w' = w² from 1 has no value at 1 s.
    expect(result.error?.at).toBeCloseTo(1, 5);
  });

  it('a loop with logic alone makes exactly its hits and uses no solver', () => {
    const logic = `component: C
outputs: { n: { type: DINT } }
behaviour: { kind: routine, period: 100 ms, body: "n := n + 1;" }
`;
    const { trace } = runCase(alone(logic, 'C', '{ method: euler, step: 100 ms }', '3600 s'));
    const { time, data } = column(trace, 'c.n');
    expect(data.at(-1)).toBe(36_001);
    expect(time.at(-1)).toBe(3600);
  });
});
