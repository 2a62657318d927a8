/**
 * Poles of sampled loops in closed form: zero-order hold of a first-order lag and of a double integrator (K. J. Åström, B. Wittenmark, Computer-Controlled Systems, 3rd ed., chapters 2 and 3; formulas
 * derived anew, not copied).
 */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { largestRealPart } from '@/core/linear';
import { projectOf } from '../support/project';

const solvers = ['{ method: runge-kutta-4, step: 10 ms }', '{ method: dormand-prince-54, step: 1 s }'];

/** A plant with equations and a sampled law; nothing disturbs it. */
function experimentOf(plant: string, law: string, solver: string, { face = '', period = 100, stop = '5 s', rest = '' } = {}) {
  const project = projectOf({
    'components/p.yaml': `component: P\ninputs: { u: { type: LREAL } }\noutputs: { y: { type: LREAL }, w: { type: LREAL } }\nbehaviour: { kind: equations, ${plant} }\n`,
    'components/k.yaml': `component: K\ninputs: { y: { type: LREAL }, w: { type: LREAL } }\noutputs: { u: { type: LREAL }${face} }\nbehaviour: { kind: routine, period: ${period} ms, body: "${law}" }\n`,
    'loops/l.yaml': `loop: l\ncomponents: { p: { use: P }, k: { use: K } }\nwires: [{ from: p.y, to: k.y }, { from: p.w, to: k.w }, { from: k.u, to: p.u }]\n${rest}solver: ${solver}\nstop: ${stop}\n`,
    'cases/c.yaml': 'case: c\nloop: l\n',
  });
  expect(project.faults).toEqual([]);
  return project.cases[0]!.experiment;
}
const lag = (a: number, b: number) => `states: { x: { start: 0.5 } }, derivatives: { x: ${a} * x + ${b} * u }, outputs: { y: x, w: 0 * x }`;
const double = 'states: { x: { start: 0.5 }, v: { start: 0 } }, derivatives: { x: v, v: u }, outputs: { y: x, w: v }';

describe('the largest real part of the poles', () => {
  it('of a lag under a sampled gain is ln |e^{aT} − k b (e^{aT} − 1) / a| / T', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -3, max: -0.2, noNaN: true }),
        fc.double({ min: 0.2, max: 5, noNaN: true }),
        fc.double({ min: -0.5, max: 3, noNaN: true }),
        fc.constantFrom(...solvers),
        (a, b, k, solver) => {
          const multiplier = Math.exp(a / 10) - ((k * b) / a) * (Math.exp(a / 10) - 1);
          fc.pre(Math.abs(multiplier) > 1e-3);
          const found = largestRealPart(experimentOf(lag(a, b), `u := (${-k}) * y;`, solver), 5);
          expect('perSecond' in found && found.perSecond).toBeCloseTo(Math.log(Math.abs(multiplier)) * 10, 4);
        },
      ),
      { numRuns: 15 },
    );
  });

  it('of a double integrator is that of its two-by-two matrix, stable or not', () => {
    for (const [k, d] of [
      [1, 0.8],
      [4, 0.1],
      [4, 3],
      [30, 1],
    ] as const) {
      const t = 0.1;
      // x⁺ = x + T v + T²/2 u, v⁺ = v + T u, u = −k x − d v.
      const [trace, det] = [2 - (k * t * t) / 2 - d * t, (1 - (k * t * t) / 2) * (1 - d * t) - (t - (d * t * t) / 2) * (-k * t)];
      const inside = (trace * trace) / 4 - det;
      const size = inside < 0 ? Math.sqrt(det) : Math.max(Math.abs(trace / 2 + Math.sqrt(inside)), Math.abs(trace / 2 - Math.sqrt(inside)));
      const found = largestRealPart(experimentOf(double, `u := (${-k}) * y - ${d} * w;`, solvers[0]!, { stop: '1 s' }), 1);
      expect('perSecond' in found && found.perSecond).toBeCloseTo(Math.log(size) / t, 4);
    }
  });

  it('counts what the controller keeps from hit to hit: an integral, a value that is a hit late', () => {
    // x⁺ = x + T u, u from the hit before: z² − z + k T = 0.
    const late = largestRealPart(
      experimentOf('states: { x: { start: 1 } }, derivatives: { x: u }, outputs: { y: x, w: 0 * x }', 'u := last; last := (-3.0) * y;', solvers[0]!, {
        face: ', last: { type: LREAL }',
        rest: 'unused: [k.last]\n',
      }),
      5,
    );
    expect('perSecond' in late && late.perSecond).toBeCloseTo(Math.log(Math.sqrt(0.3)) / 0.1, 4);
  });

  it('is that of the equations where nothing is sampled', () => {
    const project = projectOf({
      'components/p.yaml':
        'component: P\noutputs: { y: { type: LREAL } }\nbehaviour: { kind: equations, states: { x: { start: 1 }, v: { start: 0 } }, derivatives: { x: v, v: "-4 * x - 0.6 * v" }, outputs: { y: x } }\n',
      'loops/l.yaml': 'loop: l\ncomponents: { p: { use: P } }\nunused: [p.y]\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 5 s\n',
      'cases/c.yaml': 'case: c\nloop: l\n',
    });
    const found = largestRealPart(project.cases[0]!.experiment, 5);
    expect('perSecond' in found && found.perSecond).toBeCloseTo(-0.3, 6);
  });

  it('is none where the loop does not rest, switches there, or is full of noise', () => {
    const why = (plant: string, law: string, more = {}) => {
      const found = largestRealPart(experimentOf(plant, law, solvers[0]!, more), 5);
      return 'why' in found ? found.why : String(found.perSecond);
    };
    expect(
      why('states: { x: { start: 1 } }, derivatives: { x: u }, outputs: { y: x, w: 0 * x }', 'IF y > 1.0 THEN u := -1.0; ELSE u := 1.0; END_IF;'),
    ).toMatch(/no rest|switches/);
    expect(why(lag(-1, 1), 'u := time;')).toMatch(/no rest|time/);
  });
});
