import { describe, expect, it } from 'vitest';
import { orderRun } from '@/core/project';
import { adoptSetting, advise, deviationOf, presentSetting, type SolverSetting, SolverTrial, type TrialPoint, trialGrid } from '@/core/trial';
import { projectOf } from '../support/project';

const files = {
  'components/c.yaml': `component: C
outputs: { y: { type: LREAL, unit: m } }
behaviour: { kind: equations, states: { x: { start: 1, unit: m }, v: { start: 0, unit: m/s } }, derivatives: { x: v, v: "-25.0 * x" }, outputs: { y: x } }
`,
  'loops/l.yaml': 'loop: l\ncomponents: { c: { use: C } }\nsolver: { method: heun, step: 20 ms } # as it was\nstop: 10 s\n',
  'cases/c.yaml': 'case: swing\nloop: l\n',
  'requirements/r.yaml':
    'section: S\nrequirements:\n  - requirement: R-1\n    text: The swing shall stay within 1.001 m.\n    criteria:\n      - { criterion: bound, sentence: "always y <= 1.001 m", accepted: { by: t, on: "2026-01-01" } }\n',
};
const project = projectOf(files);
const order = orderRun(project, project.cases[0]!);
const present = presentSetting(order.experiment.plan.solver);
const trial = new SolverTrial([order]);
const setting = (method: SolverSetting['method'], ms: number, tolerance = 1e-6): SolverSetting => ({
  method,
  stepNs: ms * 1e6,
  relativeTolerance: tolerance,
  absoluteTolerance: tolerance / 100,
});

describe('a solver trial', () => {
  it('holds every setting against the closed form, and tells which verdicts it changes', () => {
    expect(project.faults).toEqual([]);
    const coarse = trial.point(setting('heun', 20));
    // Heun lets an undamped oscillator grow by (1 + (ωh)⁴/4)^½ a step: 500 steps of ωh = 0.1.
    const grown = (1 + 0.1 ** 4 / 4) ** 250;
    const moved = coarse.deviations.find((one) => one.name === 'c.y');
    expect(moved?.unit).toBe('m');
    expect(moved!.distance).toBeGreaterThan(grown - 1);
    expect(coarse.changed).toEqual([{ case: 'swing', requirement: 'R-1', name: 'bound', from: 'pass', to: 'fail' }]);
    expect(coarse.effort).toEqual({ accepted: 500, rejected: 0, evaluations: 1000 });
    const exact = trial.point(setting('dormand-prince-54', 1000, 1e-8));
    expect(deviationOf(exact)).toBeLessThan(1e-5);
    expect(exact.changed).toEqual([]);
    expect(exact.effort.accepted).toBeGreaterThan(10);
  });

  it('goes over several cases: costs are summed, and each signal tells the case in which it went furthest', () => {
    const two = projectOf({ ...files, 'cases/d.yaml': 'case: pushed\nloop: l\ninitial: { c.x: 2 }\n' });
    const orders = two.cases.map((one) => orderRun(two, one));
    const [single, both] = [new SolverTrial([orders[0]!]), new SolverTrial(orders)].map((one) => one.point(setting('heun', 20)));
    expect(both!.effort.accepted).toBe(2 * single!.effort.accepted);
    expect(both!.deviations.map((one) => one.name).sort()).toEqual(single!.deviations.map((one) => one.name).sort());
    expect(new Set(both!.changed.map((one) => one.case))).toEqual(new Set(['swing']));
    expect(both!.deviations.find((one) => one.name === 'c.y')!.distance).toBeGreaterThan(
      single!.deviations.find((one) => one.name === 'c.y')!.distance * 0.99,
    );
  });

  it('keeps the tolerances of single states in proportion', () => {
    const loop = files['loops/l.yaml'].replace(
      '{ method: heun, step: 20 ms }',
      '{ method: dormand-prince-54, relative_tolerance: 1e-4, tolerances: { c.v: { absolute: 1e-3 } } }',
    );
    const own = projectOf({ ...files, 'loops/l.yaml': loop });
    expect(own.faults).toEqual([]);
    const { plan } = orderRun(own, own.cases[0]!).experiment;
    expect(plan.solver.ofStates).toEqual([{ state: 1, absolute: 1e-3 }]);
    const tighter = trialGrid(plan).find((one) => one.method === 'dormand-prince-54' && one.relativeTolerance === 1e-6)!;
    expect(tighter.ofStates).toEqual([{ state: 1, absolute: 1e-5 }]);
    expect(adoptSetting(loop, tighter)).toContain('tolerances: { "c.v": { absolute: 0.00001 } }');
    expect(adoptSetting(loop, setting('euler', 5))).not.toContain('tolerances:');
    const unknown = projectOf({ ...files, 'loops/l.yaml': loop.replace('c.v:', 'c.w:') });
    expect(unknown.faults).toMatchObject([{ code: 'unknown-name', message: 'There is no continuous state "c.w" in this loop.' }]);
  });

  it('varies methods, tolerances and steps that divide the period, the present one first and once', () => {
    const grid = trialGrid(order.experiment.plan);
    expect(grid[0]).toEqual(present);
    expect(
      new Set(
        grid.map((one) =>
          JSON.stringify([one.method, one.stepNs, ['euler', 'heun', 'runge-kutta-4'].includes(one.method) ? 0 : one.relativeTolerance]),
        ),
      ).size,
    ).toBe(grid.length);
    expect(new Set(grid.map((one) => one.method)).size).toBe(6);
  });

  it('advises the quickest that is exact enough, prefers what practice prefers among equals, and says why', () => {
    const point = (of: SolverSetting, ms: number, share: number, more: Partial<TrialPoint> = {}): TrialPoint => ({
      setting: of,
      ms,
      effort: { accepted: 1, rejected: 0, evaluations: 1 },
      deviations: [{ case: 'c', name: 'y', unit: 'm', distance: share, at: 1, share }],
      changed: [],
      ...more,
    });
    const now = point(present, 10, 0.2);
    const points = [now, point(setting('euler', 1), 5, 1e-4), point(setting('dormand-prince-54', 20), 5.5, 1e-5), point(setting('heun', 1), 1, 0.5)];
    expect(advise(points, present, 1e-3)).toEqual({
      setting: setting('dormand-prince-54', 20),
      words:
        'Take Dormand–Prince 5(4) at a tolerance of 0.000001: 1.8 times as quick as now, within 0.001 % of the reference, and no verdict changes.',
      why: 'As it is now, y goes 20 % from the reference, more than 0.1 %.',
    });
    const flips = { changed: [{ case: 'c', requirement: 'R-1', name: 'b', from: 'pass', to: 'fail' }] };
    expect(advise([point(present, 10, 0, flips), points[1]!], present, 1e-3)?.why).toContain('R-1 come out otherwise');
    expect(advise([point(present, 5, 1e-6), points[1]!], present, 1e-3)?.setting).toEqual(present);
    expect(advise([now], present, 1e-3)?.words).toContain('No setting stays within');
  });

  it('is adopted in the text of the loop; comments and all else stay', () => {
    const text = '# a loop\nloop: l\nsolver: { method: heun, step: 20 ms, record_every: 50 ms } # as it was\nstop: 10 s\n';
    expect(adoptSetting(text, setting('dormand-prince-54', 1000, 1e-7))).toBe(
      '# a loop\nloop: l\nsolver: { method: dormand-prince-54, step: 1000 ms, relative_tolerance: 1e-7, absolute_tolerance: 1e-9, record_every: 50 ms } # as it was\nstop: 10 s\n',
    );
    expect(adoptSetting('solver:\n  method: heun\n  step: 20 ms\n# end\nstop: 1 s\n', setting('euler', 5))).toBe(
      'solver:\n  { method: euler, step: 5 ms }\n# end\nstop: 1 s\n',
    );
  });
});
