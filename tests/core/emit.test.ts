import { afterEach, describe, expect, it, vi } from 'vitest';
import { countersOf } from '@/core/plan';
import { checkProject, orderRun, performRun } from '@/core/project';
import { simulate } from '@/core/simulate';
import { hashTrace } from '@/core/trace';
import { alone, column, demoFiles, projectOf, runCase } from '../support/project';

afterEach(() => vi.unstubAllGlobals());

describe('emitted code', () => {
  it('holds no name or text of the user’s: only operators, numbers, slots and our own helpers', async () => {
    // A core of its own, which has compiled nothing yet.
    vi.resetModules();
    const fresh = await import('@/core/project');
    const texts: string[] = [];
    const Original = Function;
    vi.stubGlobal(
      'Function',
      new Proxy(Original, {
        construct(target, args: string[]) {
          texts.push(args.at(-1) ?? '');
          return Reflect.construct(target, args) as object;
        },
      }),
    );
    const project = fresh.checkProject((await demoFiles()).map((file) => ({ ...file, text: file.text.replaceAll('request_up', 'request_zebra') })));
    fresh.performRun(fresh.orderRun(project, project.cases[4]!));
    expect(texts.length).toBeGreaterThan(10);
    for (const text of texts) {
      expect(text).not.toMatch(/zebra|chamber|supervisor|buzzer|Filling|travel/i);
      const words = new Set(text.replace(/'[^']*'/g, '').match(/[A-Za-z_]{3,}/g) ?? []);
      const known =
        /^(var|let|const|new|function|return|if|else|for|while|do|break|true|false|null|Infinity|NaN|Math|abs|min|max|sqrt|trunc|floor|fround|length|slots|outputs|stale|complete|derivative|advance|tasks|logRow|sameRows|hits|listen|values|clock|due|imul|crossings|holds|apply|coverage|Uint|follow|counts|cruise|limit|wait|room|now|next|start|tick|two|timeline|least|value|bends|sink|cell|point|piece|improve|low|mark|row|from|step|count|hit|sg|first|closed|pow|log|sin|cos|tan|exp|asin|acos|atan|Float|Int|Array|use|strict|again|inner|recentLog|recentHits|recentRows|left|own)$/;
      expect([...words].filter((word) => !known.test(word))).toEqual([]);
    }
  });

  it('runs of one plan do not see each other, whatever came before', async () => {
    const project = checkProject(await demoFiles());
    const [calm, sway] = [project.cases[0]!, project.cases[1]!];
    const first = performRun(orderRun(project, calm)).result.traceHash;
    performRun(orderRun(project, sway));
    const copy = JSON.parse(JSON.stringify(orderRun(project, calm))) as ReturnType<typeof orderRun>;
    expect(performRun(copy).result.traceHash).toBe(first);
    expect(performRun(orderRun(project, calm)).result.traceHash).toBe(first);
  });

  it('gives the outcome slots of their own', async () => {
    const project = checkProject(await demoFiles());
    const one = simulate(project.cases[4]!.experiment);
    const kept = one.slots.slice();
    simulate(project.cases[0]!.experiment);
    expect(one.slots).toEqual(kept);
  });
});

const stage = (name: string, period: string, extra = ''): string =>
  `component: ${name}\ninputs: { u: { type: DINT } }\noutputs: { y: { type: DINT } }\nbehaviour:\n  kind: chart\n  period: ${period}\n${extra}  regions: { r: { initial: A, states: { A: { entry: "y := u + 1;", stay: "y := u + 1;" } } } }\n`;
const source =
  'component: Source\noutputs: { y: { type: DINT } }\nbehaviour: { kind: chart, period: 1 s, regions: { r: { initial: A, states: { A: { stay: "y := y + 10;" } } } } }\n';

describe('order of evaluation', () => {
  const chain = (order: string[]): string =>
    `loop: l\ncomponents:\n${order.map((one) => `  ${one}\n`).join('')}wires: [{ from: s.y, to: a.u }, { from: a.y, to: b.u }]\nsolver: { method: runge-kutta-4, step: 500 ms }\nstop: 6 s\n`;
  const members = ['s: { use: Source }', 'a: { use: First }', 'b: { use: Second }'];
  it.each([members, [...members].reverse(), [members[1]!, members[2]!, members[0]!]])(
    'producers come before consumers at the same hit, in whatever order they are written',
    (...order) => {
      const project = projectOf({
        'components/s.yaml': source,
        'components/a.yaml': stage('First', '1 s'),
        'components/b.yaml': stage('Second', '2 s'),
        'loops/l.yaml': chain(order),
        'cases/c.yaml': 'case: c\nloop: l\n',
      });
      const { trace } = runCase(project);
      expect([...column(trace, 's.y').data]).toEqual([0, 10, 20, 30, 40, 50, 60]);
      expect([...column(trace, 'a.y').data]).toEqual([1, 11, 21, 31, 41, 51, 61]);
      expect([...column(trace, 'b.y').time]).toEqual([0, 2, 4, 6]);
      expect([...column(trace, 'b.y').data]).toEqual([2, 22, 42, 62]);
    },
  );

  it('a task with an offset sees what the others hold at its own hits', () => {
    const project = projectOf({
      'components/s.yaml': source,
      'components/a.yaml': stage('First', '2 s', '  offset: 500 ms\n'),
      'loops/l.yaml':
        'loop: l\ncomponents: { s: { use: Source }, a: { use: First } }\nwires: [{ from: s.y, to: a.u }]\nsolver: { method: runge-kutta-4, step: 500 ms }\nstop: 5 s\n',
      'cases/c.yaml': 'case: c\nloop: l\n',
    });
    const { trace } = runCase(project);
    expect([...column(trace, 'a.y').time]).toEqual([0.5, 2.5, 4.5]);
    expect([...column(trace, 'a.y').data]).toEqual([1, 21, 41]);
  });
});

describe('variable step', () => {
  const falling = (right: string): string =>
    `component: F\noutputs: { y: { type: LREAL } }\nbehaviour:\n  kind: equations\n  states: { h: { start: 1 } }\n  derivatives: { h: "${right}" }\n  outputs: { y: h }\n`;
  const solver = '{ method: dormand-prince-54, step: 5 s, relative_tolerance: 1e-8, absolute_tolerance: 1e-10 }';

  it('a trial stage outside the domain only shortens the step', () => {
    // h' = -√h reaches 0 at t = 2; before that every accepted point is inside the domain, though long trial steps are not.
    const { result, trace } = runCase(alone(falling('-SQRT(h)'), 'F', solver, '1.9 s'));
    expect(result.error).toBeUndefined();
    expect(column(trace, 'c.y').data.at(-1)).toBeCloseTo((1 - 1.9 / 2) ** 2, 7);
  });

  it('where no step leads on, the run ends with the formula and its place', () => {
    const { result } = runCase(alone(falling('-1 - SQRT(h)'), 'F', solver, '3 s'));
    expect(result.verdict).toBe('error');
    expect(result.error?.message).toContain('square root of a negative number');
    expect(result.error?.message).toMatch(/"SQRT\(h\)" \(components\/c\.yaml:\d+:\d+\)/);
  });

  it('ends its steps at hits and breakpoints, and records both', () => {
    const project = projectOf({
      'components/i.yaml':
        'component: I\ninputs: { u: { type: LREAL } }\noutputs: { y: { type: LREAL } }\nbehaviour: { kind: equations, states: { s: { start: 0 } }, derivatives: { s: u }, outputs: { y: s } }\n',
      'loops/l.yaml': `loop: l\ncomponents: { i: { use: I } }\ninputs: { u: { to: i.u } }\nsolver: ${solver}\nstop: 10 s\n`,
      'cases/c.yaml': 'case: c\nloop: l\nstimuli: { u: [{ hold: 1 }, { step: -1, at: 3210 ms }] }\n',
    });
    const { trace } = runCase(project);
    const { time, data } = column(trace, 'i.y');
    expect(data[time.indexOf(3.21)]).toBeCloseTo(3.21, 9);
    expect(data.at(-1)).toBeCloseTo(3.21 - 6.79, 9);
  });
});

describe('coverage counters', () => {
  it('tell how often each decision came out TRUE and FALSE, and change nothing else', async () => {
    const project = checkProject(await demoFiles());
    const { experiment } = project.cases[0]!;
    const plain = simulate(experiment);
    const counted = simulate({ ...experiment, coverage: true });
    expect(hashTrace(counted.trace)).toBe(hashTrace(plain.trace));
    expect(plain.coverage).toHaveLength(0);
    const { of, size } = countersOf(experiment.plan);
    expect(counted.coverage).toHaveLength(size);
    // A guard that is asked at each hit while nothing is going on.
    const guard = experiment.plan.decisions.findIndex(({ kind, component }) => kind === 'guard' && component === 'supervisor');
    const [yes, no] = [0, 1].map((outcome) => counted.coverage[of[guard]!.at + outcome]!);
    expect(yes! + no!).toBeGreaterThan(0);
  });
});
