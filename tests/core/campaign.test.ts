import { describe, expect, it } from 'vitest';
import { type CriterionOverRuns, type KeptRun, laidSweep, RunTable, type Seeds, sentenceOver, sumUp } from '@/core/campaign';
import { type Verdict, verdicts } from '@/core/criteria';
import { Stream } from '@/core/numeric';
import { type CheckedProject, performRun } from '@/core/project';
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

/** The runs of the first case at some points. */
const sweptRuns = (checked: CheckedProject, quantities: Quantity[], points: readonly Point[], seeds: Seeds) =>
  laidSweep(checked, checked.cases[0]!, quantities, points, seeds, 'exact').runs();

describe('the runs of a sweep', () => {
  it('are those of the case with its values written into its document, to the last bit', () => {
    const quantities = [levels('tank.area', 1, 2.5), levels('h', 0.5, 1.5), levels('variant', 'leaky')];
    const checked = project();
    expect(checked.faults).toEqual([]);
    const { runs, faults } = sweptRuns(checked, quantities, pointsOf({ k: 'grid' }, quantities, 0), same);
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
      sweptRuns(checked, quantities, [[2], [2], [2]], { k: 'one each', from }).runs.map(({ order }) => performRun(order).result);
    const [first, again, others] = [orders(1), orders(1), orders(2)];
    expect(first).toEqual(again);
    expect(new Set([...first, ...others].map((one) => one.traceHash)).size).toBe(6);
    const alike = sweptRuns(checked, quantities, [[2], [2]], same).runs.map(({ order }) => performRun(order).result.traceHash);
    expect(new Set(alike).size).toBe(1);
  });

  it('are refused with all that is wrong with their values, each told once', () => {
    const checked = project();
    const told = (quantities: Quantity[], points: Point[]): string[] =>
      sweptRuns(checked, quantities, points, same).faults.map((fault) => `${fault.message} ${fault.fix}`);
    expect(told([levels('tank.area')], [[9], [9], [2]])).toEqual([
      'tank.area = 9 m² lies outside its limits, 1 … 5 m². Choose a value inside, or change the limits in the face of the component.',
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

  /** Sums up runs that stand at 0.5, 1, 1.5, … */
  const summed = (runs: readonly KeptRun[], interval: 'exact' | 'none' = 'exact'): CriterionOverRuns[] => {
    const table = new RunTable(watched, runs.length);
    for (const [index, one] of runs.entries()) table.put(index, one);
    return sumUp(table, { quantities, interval, growing: new Set(), pointOf: (number) => [number / 2] });
  };

  /** A run whose criterion came out so, with that margin. */
  function run(verdict: Verdict, margin?: number, isError = false): KeptRun {
    const obligation = { from: 0, until: 4, outcome: verdict === 'fail' ? 'broken' : 'met', at: 1 } as const;
    const owed = margin === undefined ? [] : [{ ...obligation, margin: { value: margin, unit: 'm', measure: margin } }];
    return {
      verdict,
      seed: 1,
      traceHash: '',
      implausible: [],
      results: [{ requirement: 'R1', name: 'low', verdict, obligations: owed, ...(owed.length > 0 ? { worst: 0 } : {}) }],
      ...(isError ? { error: { at: 1, message: 'division by zero' } } : {}),
    };
  }

  it('counts what passes, fails, decides nothing, and ended in an error, each apart', () => {
    const runs = [run('pass', 0.3), run('fail', -0.2), run('none'), run('inconclusive'), run('pass', 0.1, true), run('fail', -0.1, true)];
    const [found] = summed(runs);
    expect(found).toMatchObject({ passed: 1, failed: 2, untriggered: 1, inconclusive: 1, errors: 1 });
    expect(found?.interval).toEqual(exactInterval(2, 3));
    expect(found?.least).toMatchObject({ value: -0.2, run: 2, point: [1], isEverywhere: false });
    expect(said(found!)).toBe(
      'R1 fails in 2 of 3 runs that decide it: 9.4 to 99.2 % at 95 % confidence; 1 run does not trigger it; 1 inconclusive; 1 ended in an error; worst −0.2 m at area 1.',
    );
  });

  it('takes no pass from a run whose plant left a range in which it is to be believed', () => {
    const [found] = summed([run('pass', 0.3), { ...run('pass', 0.2), implausible: ['level'] }, { ...run('fail', -0.1), implausible: ['level'] }]);
    expect(found).toMatchObject({ passed: 1, failed: 1, discounted: 1 });
    expect(said(found!)).toContain('1 passed with a plant that is not believable there');
  });

  it('gives an interval only where runs were drawn independently', () => {
    const runs = [run('pass', 0.3), run('pass', 0.3)];
    const sentence = (interval: 'exact' | 'none'): string => said(summed(runs, interval)[0]!);
    expect(sentence('none')).toBe('R1 passes in all 2 runs; least margin +0.3 m everywhere.');
    expect(sentence('exact')).toBe('R1 passes in all 2 runs; share that fails 0 to 84.2 % at 95 % confidence; least margin +0.3 m everywhere.');
  });

  it('never takes an untriggered criterion, or one that is only known from errors, for passed', () => {
    const [none] = summed([run('none'), run('none')]);
    expect(none).toMatchObject({ passed: 0, failed: 0, untriggered: 2 });
    expect(none?.interval).toBeUndefined();
    expect(said(none!)).toBe('R1 is decided in no run; 2 runs do not trigger it.');
    const silent: KeptRun = { verdict: 'error', seed: 1, traceHash: '', implausible: [], results: [], error: { at: 0, message: 'out of memory' } };
    expect(summed([silent])[0]).toMatchObject({ passed: 0, failed: 0, untriggered: 0, errors: 1 });
  });

  it('says with which quantity the margin goes, as it does in truth', () => {
    const checked = project();
    const varied: Quantity[] = [
      { name: 'tank.area', spread: { k: 'scatter', distribution: { k: 'uniform', low: 1, high: 5 } } },
      { name: 'tank.noise', spread: { k: 'scatter', distribution: { k: 'uniform', low: 0, high: 0.05 } } },
    ];
    const design: Design = { k: 'random', runs: 60 };
    const laid = laidSweep(checked, checked.cases[0]!, varied, pointsOf(design, varied, 3), { k: 'one each', from: 3 }, 'exact');
    const { runs } = laid.runs();
    const table = new RunTable(laid.columns, laid.total);
    for (const { number, order } of runs) table.put(number - 1, performRun(order).result);
    const found = sumUp(table, laid);
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

describe('the table of runs', () => {
  it('gives back what was put in, also after parts of it were packed and unpacked, in any order', () => {
    const criteria = [
      { requirement: 'R1', name: 'low' },
      { requirement: 'R2', name: 'low' },
    ];
    const stream = new Stream(5);
    const kept = Array.from({ length: 50 }, (_, index): KeptRun => {
      const results = criteria.flatMap((one) => {
        const verdict = verdicts[Math.floor(stream.next() * 4)]!;
        const value = [Number.POSITIVE_INFINITY, -0, 3.5, -1e-300][Math.floor(stream.next() * 4)]!;
        const margin = {
          value,
          unit: one.requirement === 'R1' ? 'm' : 's',
          measure: value / 2,
          ...(stream.next() < 0.5 ? { atLeast: true as const } : {}),
        };
        const owed = stream.next() < 0.7 ? [{}, { margin }] : [];
        return stream.next() < 0.9 ? [{ ...one, verdict, obligations: owed, ...(owed.length > 0 ? { worst: 1 } : {}) }] : [];
      });
      const traceHash = Array.from({ length: 64 }, () => Math.floor(stream.next() * 16).toString(16)).join('');
      const isError = stream.next() < 0.2;
      return {
        verdict: isError ? 'error' : 'pass',
        seed: 2 ** 40 + index,
        traceHash,
        implausible: stream.next() < 0.3 ? ['level'] : [],
        results,
        ...(isError ? { error: { at: index / 3, message: `division by zero, "${index}"` } } : {}),
      };
    });
    const whole = new RunTable(criteria, kept.length);
    for (const [index, one] of kept.entries()) whole.put(index, one);
    const parts = new RunTable(criteria, kept.length);
    for (const from of [30, 0, 40, 10, 20]) parts.unpack(from, 10, whole.pack(from, 10));
    for (const table of [whole, parts])
      for (const [index, one] of kept.entries()) {
        expect(table.verdict(index)).toBe(one.verdict);
        expect(table.seed(index)).toBe(one.seed);
        expect(table.traceHash(index)).toBe(one.traceHash);
        expect(table.isDiscounted(index)).toBe(one.implausible.length > 0);
        expect(table.error(index)).toEqual(one.error);
        for (const [criterion, { requirement }] of criteria.entries()) {
          const found = one.results.find((result) => result.requirement === requirement);
          const margin = found?.worst === undefined ? undefined : found.obligations[found.worst]?.margin;
          expect(table.finding(criterion, index)).toEqual(found && { verdict: found.verdict, ...(margin ? { margin } : {}) });
        }
      }
    const cut = new RunTable(criteria, 34);
    cut.unpack(30, 10, whole.pack(30, 10));
    expect(cut.traceHash(33)).toBe(kept[33]!.traceHash);
    expect(cut.verdict(29)).toBeUndefined();
  });
});
