import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { laidCampaign, laidSweep } from '@/core/campaign';
import { type CheckedProject, performRun } from '@/core/project';
import { type Correlation, coveringArray, type Level, pointsOf, type Quantity, type Rule } from '@/core/variation';
import { column, projectOf } from '../support/project';

const normal = (name: string): Quantity => ({ name, spread: { k: 'scatter', distribution: { k: 'normal', mean: 5, deviation: 2 } } });
const even = (name: string): Quantity => ({ name, spread: { k: 'scatter', distribution: { k: 'uniform', low: 0, high: 1 } } });
const below: Rule = { columns: [0, 1], allows: ([a, b]) => Number(a) < Number(b) };
const none: readonly Correlation[] = [];

describe('quantities that scatter together', () => {
  const correlationOf = (points: readonly (readonly Level[])[], a: number, b: number): number => {
    const [x, y] = [a, b].map((at) => points.map((point) => point[at] as number)) as [number[], number[]];
    const [mx, my] = [x, y].map((list) => list.reduce((sum, one) => sum + one, 0) / list.length) as [number, number];
    const sum = (f: (i: number) => number): number => x.reduce((all, _, i) => all + f(i), 0);
    return sum((i) => (x[i]! - mx) * (y[i]! - my)) / Math.sqrt(sum((i) => (x[i]! - mx) ** 2) * sum((i) => (y[i]! - my) ** 2));
  };

  it('have that correlation, each still scattering as it did, and leave those before them as they were', () => {
    const quantities = [normal('a'), even('b'), normal('c')];
    const design = { k: 'random', runs: 20_000 } as const;
    const free = pointsOf(design, quantities, 3);
    for (const by of [0.8, -0.5]) {
      const points = pointsOf(design, quantities, 3, { correlations: [{ between: [0, 2], by }], rules: [] });
      expect(correlationOf(points, 0, 2)).toBeCloseTo(by, 1.7);
      expect(Math.abs(correlationOf(points, 0, 1))).toBeLessThan(0.03);
      expect(points.map((point) => point.slice(0, 2))).toEqual(free.map((point) => point.slice(0, 2)));
      const c = points.map((point) => point[2] as number);
      const mean = c.reduce((sum, one) => sum + one, 0) / c.length;
      expect(mean).toBeCloseTo(5, 1);
      expect(Math.sqrt(c.reduce((sum, one) => sum + (one - mean) ** 2, 0) / c.length)).toBeCloseTo(2, 1);
    }
  });

  it('are refused where none can be so', () => {
    const correlations = [
      { between: [0, 1], by: 0.9 },
      { between: [1, 2], by: 0.9 },
      { between: [0, 2], by: -0.9 },
    ] as const;
    expect(() => pointsOf({ k: 'random', runs: 5 }, ['a', 'b', 'c'].map(normal), 0, { correlations, rules: [] })).toThrow(/can scatter together so/);
    expect(() => pointsOf({ k: 'sobol', runs: 5 }, ['a', 'b'].map(normal), 0, { correlations: correlations.slice(0, 1), rules: [] })).toThrow(
      /drawn at random, not by a sobol/,
    );
  });
});

describe('conditions between quantities', () => {
  it('are kept by the points of every design, and only those that break them are missing', () => {
    const levels: Quantity[] = ['a', 'b', 'c'].map((name) => ({ name, spread: { k: 'levels', levels: [1, 2, 3, 4] } }));
    const grid = pointsOf({ k: 'grid' }, levels, 0, { correlations: none, rules: [below] });
    expect(grid).toHaveLength(6 * 4);
    expect(grid.every(([a, b]) => Number(a) < Number(b))).toBe(true);
    for (const k of ['random', 'latin hypercube', 'sobol'] as const) {
      const points = pointsOf({ k, runs: 200 }, [even('a'), even('b')], 1, { correlations: none, rules: [below] });
      expect(points.every(([a, b]) => Number(a) < Number(b))).toBe(true);
      // Those that are drawn are drawn again; those that are laid out are left out.
      if (k === 'random') expect(points).toHaveLength(200);
      else expect(Math.abs(points.length - 100)).toBeLessThan(20);
    }
  });

  it('leave a covering array every tuple that can be', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 2, max: 4 }), { minLength: 3, maxLength: 5 }),
        fc.array(fc.tuple(fc.nat(4), fc.nat(4), fc.nat(3), fc.nat(3)), { maxLength: 3 }),
        fc.integer({ min: 2, max: 3 }),
        (levels, raw, strength) => {
          // Each rule forbids one pair of levels.
          const rules = raw
            .map(([a, b, x, y]) => [a % levels.length, b % levels.length, x, y] as const)
            .filter(([a, b]) => a !== b)
            .map(([a, b, x, y]) => ({ columns: [a, b], allows: (row: readonly number[]) => !(row[a] === x && row[b] === y) }));
          const all = levels.reduce<number[][]>((rows, count) => rows.flatMap((row) => Array.from({ length: count }, (_, at) => [...row, at])), [[]]);
          const sound = all.filter((row) => rules.every((rule) => rule.allows(row)));
          const rows = coveringArray(levels, strength, 0, rules);
          const columns = levels.flatMap((_, a) =>
            levels.flatMap((__, b) =>
              b > a ? levels.flatMap((___, c) => (strength === 2 ? (c === 0 ? [[a, b]] : []) : c > b ? [[a, b, c]] : [])) : [],
            ),
          );
          const tuples = (list: readonly (readonly number[])[]) =>
            new Set(columns.flatMap((group) => list.map((row) => `${group}:${group.map((at) => row[at])}`)));
          expect(rows.every((row) => rules.every((rule) => rule.allows(row)))).toBe(true);
          expect(tuples(rows)).toEqual(tuples(sound));
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('values with weights', () => {
  it('come as often as they weigh', () => {
    const quantities: Quantity[] = [{ name: 'a', spread: { k: 'levels', levels: ['x', 'y', 'z', 'never'], weights: [5, 3, 2, 0] } }];
    for (const k of ['random', 'latin hypercube', 'sobol'] as const) {
      const points = pointsOf({ k, runs: 10_000 }, quantities, 1);
      const share = (level: Level): number => points.filter(([one]) => one === level).length / points.length;
      expect(['x', 'y', 'z'].map((level) => Math.abs(share(level) - { x: 0.5, y: 0.3, z: 0.2 }[level]!)).every((off) => off < 0.02)).toBe(true);
      expect(share('never')).toBe(0);
    }
  });
});

const project = (campaign: string): CheckedProject =>
  projectOf({
    'components/c.yaml':
      'component: C\ninputs: { u: { type: LREAL } }\noutputs: { y: { type: LREAL } }\nparameters: { rate: { value: 1, min: 0, max: 10 }, limit: { value: 4 } }\nbehaviour: { kind: equations, states: { x: { start: 0 } }, derivatives: { x: rate }, outputs: { y: x + u } }\n',
    'components/d.yaml':
      'component: D\ninputs: { y: { type: LREAL } }\noutputs: { n: { type: LREAL } }\nbehaviour: { kind: routine, period: 100 ms, body: "n := y;" }\n',
    'loops/l.yaml':
      'loop: l\ncomponents: { c: { use: C }, d: { use: D } }\nwires: [{ from: c.y, to: d.y }]\nunused: [d.n]\ninputs: { u: { to: c.u } }\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 2 s\n',
    'cases/c.yaml': 'case: only\nloop: l\nscript: [{ hold: 1 s }, { fault: { on: d.y, offset: 0.5 } }, { hold: 500 ms }, { set: { u: 2 } }]\n',
    'parameters/slow.yaml': 'parameter_set: slow\nvalues: { c.rate: 0.5 }\n',
    'parameters/fast.yaml': 'parameter_set: fast\nvalues: { c.rate: 2 }\n',
    'campaigns/x.yaml': `campaign: X\n${campaign}`,
  });
const told = (campaign: string): string =>
  project(campaign)
    .faults.map((one) => `${one.message} ${one.fix}`)
    .join('\n');
const runs = (campaign: string) => {
  const made = project(campaign);
  expect(made.faults).toEqual([]);
  const { runs: all, faults } = laidCampaign(made, made.campaigns[0]!).runs();
  expect(faults).toEqual([]);
  return all.map((run) => ({ point: run.point, ...performRun(run.order) }));
};
const last = (trace: (typeof runs extends (text: string) => (infer R)[] ? R : never)['trace'], name: string): number =>
  column(trace, name).data.at(-1)!;

describe('what may vary besides parameters', () => {
  it('is the parameter set', () => {
    const made = runs('vary: { parameter_set: { list: [slow, fast] } }\n');
    expect(made.map(({ point, trace }) => [point[0], Number(last(trace, 'c.y').toFixed(9))])).toEqual([
      ['slow', 3],
      ['fast', 6],
    ]);
  });

  it('is a setting of the solver, which keeps to the periods', () => {
    const rows = runs('vary: { solver.step: { list: [10 ms, 50 ms] } }\n').map(({ trace }) => trace.bases[0]!.length);
    expect(rows[0]! / rows[1]!).toBeGreaterThan(4);
    const made = project('vary: { solver.step: { list: [30 ms] } }\n');
    expect(laidCampaign(made, made.campaigns[0]!).runs().faults[0]?.message).toMatch(/does not divide the period/);
  });

  it('is no setting that a solver has not, without a document as well', () => {
    const made = project('');
    const pace: Quantity = { name: 'solver.pace', spread: { k: 'levels', levels: [1] } };
    const laid = laidSweep(made, made.cases[0]!, [pace], [[1]], { k: 'same' }, 'none');
    expect(laid.runs().faults[0]?.message).toMatch(/The solver cannot be set so: .*pace/);
  });

  it('is what the script is made of', () => {
    const made = runs('vary: { script.2.offset: { list: [1, 2] }, script.1.hold: { list: [0.5, 1] }, script.4.u: { list: [3] } }\n');
    for (const { point, trace } of made) {
      const [offset, hold] = point as [number, number];
      const n = column(trace, 'd.n');
      const y = column(trace, 'c.y');
      const begin = [...n.time].findIndex((t, hit) => Math.abs(n.data[hit]! - t) > 1e-9);
      expect(n.time[begin]).toBeCloseTo(hold, 9);
      expect(n.data[begin]).toBeCloseTo(hold + offset, 9);
      expect(y.data.at(-1)).toBeCloseTo(5, 9);
    }
  });

  it('keeps to conditions in the document', () => {
    const points = runs(
      'vary: { c.rate: { from: 1, until: 4, steps: 4 }, c.limit: { from: 1, until: 4, steps: 4 } }\nconstraints: [c.rate < c.limit]\n',
    ).map((one) => one.point);
    expect(points).toHaveLength(6);
  });

  it.each([
    ['vary: { parameter_set: { list: [slw] } }\n', /no parameter set "slw"/],
    ['vary: { solver.stp: { list: [10 ms] } }\n', /solver.stp cannot be 10 ms.*Settings are solver.method/s],
    ['vary: { solver.method: { list: [guess] } }\n', /solver.method cannot be guess/],
    ['vary: { solver.step: { uniform: [1, 2] } }\n', /it cannot scatter/],
    ['vary: { c.rate: { list: [1, 2], weights: [1] } }\ndesign: random\n', /2 values and 1 weight/],
    ['vary: { c.rate: { list: [1, 2], weights: [0, 0] } }\ndesign: random\n', /All weights are 0/],
    ['vary: { c.rate: { list: [1, 2], weights: [1, 2] } }\n', /c.rate has weights; a grid design/],
    ['vary: { c.rate: { list: [1, 2] } }\nconstraints: [c.rate > 5]\n', /No run keeps to these constraints/],
    ['vary: { c.rate: { list: [1, 2] } }\nconstraints: [c.rat > 5]\n', /c\.rat/],
    ['vary: { c.rate: { uniform: [1, 2] } }\ncorrelated: [{ between: [c.rate, c.limit], by: 0.5 }]\n', /"c.limit" does not vary/],
    ['vary: { c.rate: { uniform: [1, 2] } }\ncorrelated: [{ between: [c.rate, c.rate], by: 0.5 }]\n', /cannot go with itself/],
    [
      'vary: { c.rate: { uniform: [1, 2] }, c.limit: { uniform: [1, 2] } }\ncorrelated: [{ between: [c.rate, c.limit], by: 1 }]\n',
      /lies between -1 and 1/,
    ],
  ])('is refused where it cannot be: %s', (campaign, message) => {
    expect(told(campaign)).toMatch(message);
  });
});
