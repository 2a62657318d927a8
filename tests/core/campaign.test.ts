import { describe, expect, it } from 'vitest';
import { type CriterionOverRuns, type FoundRun, sentenceOver, sumUp, sweptRuns } from '@/core/campaign';
import type { Verdict } from '@/core/criteria';
import { type CheckedProject, performRun, type RunResult } from '@/core/project';
import { exactInterval } from '@/core/statistics';
import { type Design, type Point, pointsOf, type Quantity } from '@/core/variation';
import { projectOf, runCase } from '../support/project';

const tank = (name: string, factor: string): string => `component: ${name}
inputs: { inflow: { type: LREAL, unit: m3/s } }
outputs: { level: { type: LREAL, unit: m } }
parameters:
  area: { value: 2, unit: m2, min: 1, max: 5 }
  noise: { value: 0.01, unit: m, min: 0, max: 1 }
  built: { value: 1, min: 0, max: 2, tuning: fixed }
constraints: [{ holds: noise < area / 10, message: the noise is too large for this tank }]
behaviour:
  kind: equations
  states: { h: { start: 1, unit: m } }
  derivatives: { h: ${factor} * inflow / area }
  outputs: { level: h }
`;
/** @param values lines that the case holds beside its stimuli */
const project = (values = ''): CheckedProject =>
  projectOf({
    'components/tank.yaml': tank('Tank', '1.0'),
    'components/leaky.yaml': tank('Leaky', '0.5'),
    'components/gauge.yaml':
      'component: Gauge\ninputs: { u: { type: LREAL, unit: m } }\noutputs: { y: { type: LREAL, unit: m } }\nbehaviour: { kind: routine, period: 100 ms, body: "y := u + DRAW_NORMAL(0.0, 0.001);" }\n',
    'loops/l.yaml':
      'loop: l\ncomponents: { tank: { use: Tank }, gauge: { use: Gauge } }\nwires: [{ from: tank.level, to: gauge.u }]\ninputs: { inflow: { to: tank.inflow } }\nvariants: { leaky: { components: { tank: { use: Leaky } } } }\nsolver: { method: runge-kutta-4, step: 100 ms }\nstop: 4 s\n',
    'cases/c.yaml': `case: fill\nloop: l\nstimuli: { inflow: [{ hold: 0.5 }] }\n${values}`,
    'requirements/r.yaml':
      'section: First\nrequirements:\n  - { requirement: R1, text: The level shall stay below 2 m., criteria: [{ criterion: low, sentence: always gauge.y <= 2 m, accepted: { by: us, on: 2026-01-01 } }, { criterion: never, sentence: "when tank.level crosses 50 m upward, within 1 s tank.level < 1 m", accepted: { by: us, on: 2026-01-01 } }] }\n',
  });

const levels = (name: string, ...values: (number | string)[]): Quantity => ({ name, spread: { k: 'levels', levels: values } });
const same = { k: 'same' } as const;

describe('the runs of a sweep', () => {
  it('are those of the case with its values written into its document, to the last bit', () => {
    const quantities = [levels('tank.area', 1, 2.5), levels('h', 0.5, 1.5), levels('variant', 'leaky')];
    const checked = project();
    expect(checked.faults).toEqual([]);
    const { runs, faults } = sweptRuns(checked, checked.cases[0]!, quantities, pointsOf({ k: 'grid' }, quantities, 0), same);
    expect(faults).toEqual([]);
    expect(runs.map((run) => run.number)).toEqual([1, 2, 3, 4]);
    for (const { point, order } of runs) {
      const [area, h] = point;
      const written = project(`parameters: { tank.area: ${area} }\ninitial: { tank.h: ${h} }\nvariant: leaky\n`);
      expect(performRun(order).result).toEqual(runCase(written).result);
    }
  });

  it('draw with seeds of their own, which follow from one and the place in the design', () => {
    const checked = project();
    const quantities = [levels('area', 2, 2, 2)];
    const orders = (from: number) =>
      sweptRuns(checked, checked.cases[0]!, quantities, [[2], [2], [2]], { k: 'one each', from }).runs.map(({ order }) => performRun(order).result);
    const [first, again, others] = [orders(1), orders(1), orders(2)];
    expect(first).toEqual(again);
    expect(new Set([...first, ...others].map((one) => one.traceHash)).size).toBe(6);
    const alike = sweptRuns(checked, checked.cases[0]!, quantities, [[2], [2]], same).runs.map(({ order }) => performRun(order).result.traceHash);
    expect(new Set(alike).size).toBe(1);
  });

  it('are refused with all that is wrong with their values, each told once', () => {
    const checked = project();
    const told = (quantities: Quantity[], points: Point[]): string[] =>
      sweptRuns(checked, checked.cases[0]!, quantities, points, same).faults.map((fault) => `${fault.message} ${fault.fix}`);
    expect(told([levels('tank.area')], [[9], [9], [2]])).toEqual([
      'tank.area = 9 m2 lies outside its limits, 1 … 5 m2. Choose a value inside, or change the limits in the face of the component.',
    ]);
    expect(told([levels('tank.aria'), levels('noise')], [[2, 0.3]])[0]).toMatch(
      /There is no parameter "tank.aria" in the loop l. Did you mean "tank.area"/,
    );
    expect(told([levels('noise')], [[0.3]])).toEqual(['tank: the noise is too large for this tank. Choose parameters for which noise < area / 10.']);
    expect(told([levels('built')], [[2]])[0]).toMatch(/fixed when the thing is built/);
    expect(told([levels('variant')], [['tight']])[0]).toMatch(/has no variant "tight"/);
    expect(told([levels('area')], [['wide']])[0]).toMatch(/"wide" is not a number/);
  });
});

describe('what the runs say of a criterion', () => {
  const watched = [{ requirement: 'R1', name: 'low' }];
  const quantities = [levels('tank.area', 1, 2)];
  /** Without the narrow blank before a percent sign. */
  const said = (found: CriterionOverRuns): string => sentenceOver(found, quantities).replaceAll('\u00a0', ' ');

  /** A run whose criterion came out so, with that margin. */
  function run(number: number, verdict: Verdict, margin?: number, isError = false): FoundRun {
    const obligation = { from: 0, until: 4, outcome: verdict === 'fail' ? 'broken' : 'met', at: 1 } as const;
    const owed = margin === undefined ? [] : [{ ...obligation, margin: { value: margin, unit: 'm', measure: margin } }];
    const result = {
      results: [{ requirement: 'R1', name: 'low', verdict, obligations: owed, ...(owed.length > 0 ? { worst: 0 } : {}) }],
      ...(isError ? { error: { at: 1, message: 'division by zero' } } : {}),
    };
    return { number, point: [number / 2], result: result as unknown as RunResult };
  }

  it('counts what passes, fails, decides nothing, and ended in an error, each apart', () => {
    const runs = [
      run(1, 'pass', 0.3),
      run(2, 'fail', -0.2),
      run(3, 'none'),
      run(4, 'inconclusive'),
      run(5, 'pass', 0.1, true),
      run(6, 'fail', -0.1, true),
    ];
    const [found] = sumUp(runs, watched, quantities, true);
    expect(found).toMatchObject({ passed: 1, failed: 2, untriggered: 1, inconclusive: 1, errors: 1 });
    expect(found?.interval).toEqual(exactInterval(2, 3));
    expect(found?.least).toMatchObject({ value: -0.2, run: 2, point: [1], isEverywhere: false });
    expect(said(found!)).toBe(
      'R1 fails in 2 of 3 runs that decide it: 9.4 to 99.2 % at 95 % confidence; 1 run does not trigger it; 1 inconclusive; 1 ended in an error; worst −0.2 m at area 1.',
    );
  });

  it('gives an interval only where runs were drawn independently', () => {
    const runs = [run(1, 'pass', 0.3), run(2, 'pass', 0.3)];
    const sentence = (isIndependent: boolean): string => said(sumUp(runs, watched, quantities, isIndependent)[0]!);
    expect(sentence(false)).toBe('R1 passes in all 2 runs; least margin +0.3 m everywhere.');
    expect(sentence(true)).toBe('R1 passes in all 2 runs; share that fails 0 to 84.2 % at 95 % confidence; least margin +0.3 m everywhere.');
  });

  it('never takes an untriggered criterion, or one that is only known from errors, for passed', () => {
    const [none] = sumUp([run(1, 'none'), run(2, 'none')], watched, quantities, true);
    expect(none).toMatchObject({ passed: 0, failed: 0, untriggered: 2 });
    expect(none?.interval).toBeUndefined();
    expect(said(none!)).toBe('R1 is decided in no run; 2 runs do not trigger it.');
    const silent = { number: 1, point: [1], result: { results: [], error: { at: 0, message: 'out of memory' } } } as unknown as FoundRun;
    expect(sumUp([silent], watched, quantities, true)[0]).toMatchObject({ passed: 0, failed: 0, untriggered: 0, errors: 1 });
  });

  it('says with which quantity the margin goes, as it does in truth', () => {
    const checked = project();
    const varied: Quantity[] = [
      { name: 'tank.area', spread: { k: 'scatter', distribution: { k: 'uniform', low: 1, high: 5 } } },
      { name: 'tank.noise', spread: { k: 'scatter', distribution: { k: 'uniform', low: 0, high: 0.05 } } },
    ];
    const design: Design = { k: 'random', runs: 60 };
    const { runs } = sweptRuns(checked, checked.cases[0]!, varied, pointsOf(design, varied, 3), { k: 'one each', from: 3 });
    const found = sumUp(
      runs.map(({ number, point, order }) => ({ number, point, result: performRun(order).result })),
      runs[0]!.order.watched,
      varied,
      true,
    );
    // A larger tank fills more slowly: level 1 + 0.5 · 4 / area, so it fails just where the area is below 2.
    const low = found.find((one) => one.criterion === 'low')!;
    expect(low.failed).toBe(runs.filter(({ point }) => Number(point[0]) < 2).length);
    expect(low.influence[0]?.rank?.value).toBeGreaterThan(0.99);
    expect(low.influence[0]?.explains).toBeGreaterThan(0.85);
    expect(low.influence[1]?.rank?.low).toBeLessThan(0);
    expect(low.influence[1]?.rank?.high).toBeGreaterThan(0);
    expect(low.isOneOfSeveral).toBe(true);
    expect(sentenceOver(low, varied)).toMatch(/^R1 “low” fails in /);
  });
});
