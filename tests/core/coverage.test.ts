import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Coverage, Tally, touchedIn } from '@/core/coverage';
import { simulate } from '@/core/simulate';
import { hashTrace } from '@/core/trace';
import { column, projectOf } from '../support/project';

const inputs = ['a', 'b', 'c'] as const;

/** A routine with a decision over three inputs, and a chart that has them as guards; the inputs follow a table. */
function projectWith(decision: string, table: readonly (readonly boolean[])[], body = '') {
  const points = (at: number): string => `[${table.map((row, hit) => `[${hit * 100} ms, ${row[at] ? 'TRUE' : 'FALSE'}]`).join(', ')}]`;
  const face = `inputs: { ${inputs.map((one) => `${one}: { type: BOOL }`).join(', ')} }`;
  return projectOf({
    'components/r.yaml': `component: R\n${face}\noutputs: { y: { type: DINT } }\nbehaviour: { kind: routine, period: 100 ms, body: "IF ${decision} THEN y := y + 1; END_IF;${body}" }\n`,
    'components/k.yaml': `component: K\n${face}\noutputs: { on: { type: BOOL } }\nbehaviour: { kind: chart, period: 100 ms, regions: { m: { initial: Off, states: { Off: { entry: "on := FALSE;", go: [{ to: On, when: "${decision}" }] }, On: { entry: "on := TRUE;", go: [{ to: Off, when: "NOT (${decision})" }] } } } } }\n`,
    'loops/l.yaml': `loop: l\ncomponents: { r: { use: R }, k: { use: K } }\ninputs: { ${inputs.map((one) => `${one}: { to: [r.${one}, k.${one}] }`).join(', ')} }\nunused: [r.y, k.on]\nsolver: { method: runge-kutta-4, step: 100 ms }\nstop: ${Math.max(1, table.length - 1) * 100} ms\n`,
    'cases/c.yaml': `case: c\nloop: l\nstimuli:\n${inputs.map((one, at) => `  ${one}: [{ table: ${points(at)}, between: held }]\n`).join('')}`,
  });
}

const decisions = ['a AND b', 'a OR b AND NOT c', '(a OR b) AND c', 'a XOR b', 'NOT (a AND b) OR c'];
const truth: Readonly<Record<string, (a: boolean, b: boolean, c: boolean) => boolean>> = {
  'a AND b': (a, b) => a && b,
  'a OR b AND NOT c': (a, b, c) => a || (b && !c),
  '(a OR b) AND c': (a, b, c) => (a || b) && c,
  'a XOR b': (a, b) => a !== b,
  'NOT (a AND b) OR c': (a, b, c) => !(a && b) || c,
};

describe('coverage', () => {
  it('counts the outcomes that the inputs make, transitions as often as the state changes, and changes nothing of the run', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...decisions),
        fc.array(fc.tuple(fc.boolean(), fc.boolean(), fc.boolean()), { minLength: 2, maxLength: 14 }),
        (decision, table) => {
          const project = projectWith(decision, table);
          expect(project.faults).toEqual([]);
          const { experiment } = project.cases[0]!;
          const plain = simulate(experiment);
          const outcome = simulate({ ...experiment, coverage: true });
          expect(hashTrace(outcome.trace)).toBe(hashTrace(plain.trace));
          const coverage = new Coverage();
          coverage.add(experiment.plan, touchedIn(experiment.plan, outcome));
          const { items, conditions } = coverage.report();
          const came = table.map(([a, b, c]) => truth[decision]!(a, b, c));
          const count = (words: RegExp): number | undefined => items.find((one) => one.component === 'r' && words.test(one.words))?.count;
          expect(count(/ is TRUE$/)).toBe(came.filter((one) => one).length);
          expect(count(/ is FALSE$/)).toBe(came.filter((one) => !one).length);
          // The chart takes a transition at the hit after the one in which it entered a state.
          const states = [...column(outcome.trace, 'k.m').data];
          const changes = (to: number): number =>
            states.filter((state, hit) => state === to && hit > 0 && states[hit - 1] !== to).length + (to === 2 && states[0] === 2 ? 1 : 0);
          const taken = (words: RegExp): number | undefined => items.find((one) => one.kind === 'transition' && words.test(one.words))?.count;
          expect(taken(/^k\.m\.Off to On/)).toBe(changes(2));
          expect(taken(/^k\.m\.On to Off/)).toBe(changes(1));
          // A condition is shown to decide only where two rows show it.
          const names = conditions.filter((one) => one.component === 'r').map((one) => one.text);
          for (const [bit, name] of names.entries()) {
            const at = inputs.indexOf(name as (typeof inputs)[number]);
            const flipped = (row: readonly boolean[]): boolean =>
              truth[decision]!(...(row.map((value, index) => (index === at ? !value : value)) as [boolean, boolean, boolean]));
            const is = (row: readonly boolean[]): boolean => truth[decision]!(...(row as [boolean, boolean, boolean]));
            const deciding = table.filter((row) => is(row) !== flipped(row));
            const isShown = deciding.some((x) => deciding.some((y) => is(x) && !is(y) && x[at] !== y[at]));
            expect(conditions.filter((one) => one.component === 'r')[bit]!.shown !== undefined).toBe(isShown);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('adds up over runs, and keeps ids when other text changes', () => {
    const [one, two] = [
      projectWith('a AND b', [
        [false, false, false],
        [true, false, false],
      ]),
      projectWith(
        'a AND b',
        [
          [true, true, false],
          [false, true, false],
        ],
        ' IF c THEN y := 0; END_IF;',
      ),
    ];
    const coverage = new Coverage();
    for (const project of [one, two]) {
      const { experiment } = project.cases[0]!;
      coverage.add(experiment.plan, touchedIn(experiment.plan, simulate({ ...experiment, coverage: true })));
    }
    const { items, conditions } = coverage.report();
    expect(items.find((item) => item.id === 'outcome l r: a AND b TRUE')?.count).toBe(1);
    expect(items.find((item) => item.id === 'outcome l r: a AND b FALSE')?.count).toBe(3);
    expect(conditions.filter((item) => item.id.startsWith('condition l r: a AND b')).map((item) => item.shown?.how)).toEqual([
      'unique cause',
      'unique cause',
    ]);
  });

  it('of many runs is the same however they are put together', () => {
    const row = fc.tuple(fc.boolean(), fc.boolean(), fc.boolean());
    const runs = fc.array(fc.tuple(fc.nat(99), fc.array(row, { minLength: 2, maxLength: 6 })), { minLength: 1, maxLength: 5 });
    fc.assert(
      fc.property(fc.constantFrom(...decisions), runs, fc.nat(4), (decision, made, cut) => {
        const touched = made.map(([number, table]) => {
          const { experiment } = projectWith(decision, table).cases[0]!;
          return { number, plan: experiment.plan, touched: touchedIn(experiment.plan, simulate({ ...experiment, coverage: true })) };
        });
        const each = new Coverage();
        for (const one of [...touched].sort((a, b) => a.number - b.number)) each.add(one.plan, one.touched);
        const tallyOf = (some: typeof touched): Tally => {
          const tally = new Tally();
          for (const one of some) tally.add(one.number, one.plan, one.touched);
          return tally;
        };
        const all = tallyOf([]);
        for (const part of [touched.slice(cut), touched.slice(0, cut)])
          for (const { run, touched: sum } of tallyOf(part).kept) all.add(run, touched.find((one) => one.number === run)!.plan, sum);
        expect(all.report()).toEqual(each.report());
        expect(all.kept).toEqual(tallyOf(touched).kept);
      }),
      { numRuns: 20 },
    );
  });

  it('says in words what is missing', () => {
    const coverage = new Coverage();
    const { experiment } = projectWith('(a OR b) AND c', [
      [true, false, false],
      [true, false, true],
    ]).cases[0]!;
    coverage.add(experiment.plan, touchedIn(experiment.plan, simulate({ ...experiment, coverage: true })));
    const gaps = coverage
      .report()
      .conditions.filter((one) => one.component === 'r')
      .map((one) => one.gap);
    expect(gaps).toEqual(['"a" FALSE was never seen with "b" FALSE, "c" TRUE.', '"b" FALSE was never seen with "a" FALSE, "c" TRUE.', undefined]);
  });
});
