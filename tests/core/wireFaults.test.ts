import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { column, projectOf, runCase } from '../support/project';

const solvers = [
  '{ method: runge-kutta-4, step: 10 ms }',
  '{ method: dormand-prince-54, step: 1 s, relative_tolerance: 1e-8, absolute_tolerance: 1e-8 }',
];

/** A swinging signal, a continuous and a sampled component that read it, and a chart that gets what the sampled one says. */
const documents = ({ solver = solvers[0]!, script = '', wires = '', components = '', rest = '', sentence = 'always s.n <= 99' } = {}) => ({
  'components/p.yaml':
    'component: P\noutputs: { y: { type: LREAL, unit: m } }\nbehaviour: { kind: equations, states: { x: { start: 0 }, v: { start: 1 } }, derivatives: { x: v, v: "-x" }, outputs: { y: x } }\n',
  'components/q.yaml':
    'component: Q\ninputs: { y: { type: LREAL, unit: m } }\noutputs: { z: { type: LREAL, unit: m } }\nbehaviour: { kind: equations, outputs: { z: 2 * y } }\n',
  'components/s.yaml': `component: S
inputs: { y: { type: LREAL, unit: m } }
outputs: { n: { type: LREAL, unit: m }, high: { type: BOOL } }
behaviour: { kind: routine, period: 50 ms, body: "n := y; high := y > 0.5;" }
`,
  'components/r.yaml':
    'component: R\ninputs: { on: { type: BOOL } }\noutputs: { count: { type: DINT } }\nbehaviour: { kind: routine, period: 100 ms, body: "IF on THEN count := count + 1; END_IF;" }\n',
  ...(components ? { 'components/wire.yaml': components } : {}),
  'loops/l.yaml': `loop: l\ncomponents: { p: { use: P }, q: { use: Q }, s: { use: S }, r: { use: R }${components ? ', wire: { use: Wire }' : ''} }\nwires: [${wires || '{ from: p.y, to: [q.y, s.y] }, { from: s.high, to: r.on }'}]\nunused: [q.z, s.n, r.count${components ? ', wire.hits' : ''}]\nsolver: ${solver}\nstop: 8 s\n`,
  'cases/c.yaml': `case: only\nloop: l\n${rest}script:\n${script || '  - hold: 1 s\n'}`,
  'requirements/r.yaml': `section: First\nrequirements: [{ requirement: R1, text: It stays., criteria: [{ criterion: below, sentence: ${sentence}, accepted: { by: us, on: 2026-01-01 } }] }]\n`,
});
const run = (given: Parameters<typeof documents>[0]) => runCase(projectOf(documents(given)));
const faultsOf = (script: string) => projectOf(documents({ script })).faults.map((one) => `${one.message} ${one.fix}`);

describe('a wire that is faulty', () => {
  it('is sound before and after: the run is the one without a fault, whatever solver', () => {
    for (const solver of solvers) {
      const sound = run({ solver });
      const never = run({
        solver,
        script: '  - hold: 20 s\n  - fault: { on: s.y, stuck: 3 }\n  - fault: { on: q.y, stuck: 3 }\n  - fault: { on: r.on, stuck: TRUE }\n',
      });
      for (const name of ['p.y', 'q.z', 's.n', 's.high', 'r.count']) expect(column(never.trace, name)).toEqual(column(sound.trace, name));
    }
  });

  it.each([
    ['stuck: 3', 'z := 3.0;'],
    ['lost: true', 'z := 0.0;'],
    ['offset: 0.25', 'z := y + 0.25;'],
    ['offset: -2', 'z := y + (-2.0);'],
  ])('with %s gives its reader what a component in the wire would give', (fault, then) => {
    const script = `  - hold: 1 s\n  - fault: { on: s.y, ${fault} }\n  - hold: 2500 ms\n  - fault: { on: s.y, over: true }\n`;
    const wire = `component: Wire\ninputs: { y: { type: LREAL, unit: m } }\noutputs: { z: { type: LREAL, unit: m }, hits: { type: DINT } }\nbehaviour: { kind: routine, period: 50 ms, body: "IF hits >= 20 AND hits < 70 THEN ${then} ELSE z := y; END_IF; hits := hits + 1;" }\n`;
    const made = run({ script });
    const built = run({ components: wire, wires: '{ from: p.y, to: [q.y, wire.y] }, { from: wire.z, to: s.y }, { from: s.high, to: r.on }' });
    for (const name of ['p.y', 'q.z', 's.n', 's.high', 'r.count']) expect(column(made.trace, name)).toEqual(column(built.trace, name));
  });
});

describe('a wire that is late, frozen or noisy', () => {
  const every = 0.05;
  const samples = (given: Parameters<typeof documents>[0]) => column(run(given).trace, 's.n').data;

  it('is late by whole periods of its reader, and by the first value before there was another', () => {
    const sound = samples({});
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 40 }), fc.integer({ min: 0, max: 60 }), (one, two, after) => {
        const script =
          `  - fault: { on: s.y, delayed: ${one * 50} ms }\n  - hold: ${after * 50} ms\n  - fault: { on: y, delayed: ${two * 50} ms }\n  - hold: 2 s\n  - fault: { on: s.y, over: true }\n`.replace(
            'on: y,',
            'on: S.Y,',
          );
        const late = samples({ script });
        late.forEach((value, hit) => {
          const by = hit < after ? one : hit < after + 40 ? two : 0;
          expect(value).toBe(sound[Math.max(0, hit - by)]);
        });
      }),
      { numRuns: 25 },
    );
  });

  it('is frozen at the value of the moment', () => {
    const sound = samples({});
    const frozen = samples({
      script: '  - hold: 1230 ms\n  - fault: { on: s.y, frozen: true }\n  - hold: 2 s\n  - fault: { on: s.y, over: true }\n',
    });
    frozen.forEach((value, hit) => {
      const at = hit * every;
      if (at >= 1.23 && at < 3.23 - 1e-9) expect(value).toBeCloseTo(Math.sin(1.23), 6);
      else expect(value).toBe(sound[hit]);
    });
  });

  it('has noise with that deviation, drawn with the seed of the run', () => {
    const noisy = (seed: number) => samples({ script: '  - fault: { on: s.y, noise: 0.2 }\n', rest: `seed: ${seed}\nstop: 400 s\n` });
    const [sound, first] = [samples({ rest: 'stop: 400 s\n' }), noisy(1)];
    const errors = [...first].map((value, hit) => value - sound[hit]!);
    const mean = errors.reduce((sum, one) => sum + one, 0) / errors.length;
    const deviation = Math.sqrt(errors.reduce((sum, one) => sum + (one - mean) ** 2, 0) / errors.length);
    expect(Math.abs(mean)).toBeLessThan(0.01);
    expect(Math.abs(deviation - 0.2)).toBeLessThan(0.01);
    expect(noisy(1)).toEqual(first);
    expect(noisy(2)).not.toEqual(first);
  });

  it('reaches a continuous reader at every instant, and a component behind a sampled one', () => {
    const { trace } = run({ script: '  - hold: 1 s\n  - fault: { on: q.y, offset: 1 }\n  - fault: { on: r.on, stuck: FALSE }\n' });
    const [z, y] = [column(trace, 'q.z'), column(trace, 'p.y')];
    expect([...z.data].filter((_, row) => z.time[row]! > 1)).toEqual(
      [...y.data].filter((_, row) => y.time[row]! > 1).map((value) => 2 * (value + 1)),
    );
    const count = column(trace, 'r.count');
    const atOne = count.data[10]!;
    expect([...count.data].slice(10)).toEqual([...count.data].slice(10).map(() => atOne));
  });
});

describe('what is judged where a wire is faulty', () => {
  const verdictOf = (sentence: string) => run({ script: '  - hold: 1 s\n  - fault: { on: s.y, stuck: 7 }\n', sentence }).result.results[0]?.verdict;

  it('is the signal at its source, unless the input is named in full', () => {
    expect(verdictOf('always p.y <= 2 m')).toBe('pass');
    expect(verdictOf('always s.y <= 2 m')).toBe('fail');
    expect(verdictOf('always s.y <= 8 m')).toBe('pass');
    expect(verdictOf('always s.n <= 2 m')).toBe('fail');
  });

  it('is what a condition of the script sees as well', () => {
    const { result } = run({
      script: '  - fault: { on: s.y, stuck: 7 }\n  - wait: { until: s.y >= 6, give_up_after: 1 s }\n  - expect: { holds: p.y < 6, within: 1 s }\n',
    });
    expect(result.gaveUp).toBeUndefined();
    expect(result.expected[0]?.outcome).toBe('met');
  });
});

describe('a fault that cannot be', () => {
  it.each([
    ['on: s.z, lost: true', /no wired input "s.z" in the loop l\. Did you mean "s.y"/],
    ['on: s.y, delayed: 70 ms', /read every 50 ms; 70 ms is not a whole number of that\. Write 50 ms/],
    ['on: q.y, delayed: 1 s', /q.y is continuous, and so is what it reads: a delay needs a sampled component/],
    ['on: q.y, noise: 1', /noise needs a sampled component/],
    ['on: r.on, offset: 1', /r.on is BOOL; only a real number can have an offset/],
    ['on: r.on, stuck: 1', /neither TRUE nor FALSE/],
    ['on: s.y', /ust say on: and one of stuck:/],
    ['on: s.y, lost: false', /an only be true; leave the step out otherwise/],
    ['on: s.y, delayed: 3 h', /10800 s are more than 10000 periods|more than 10000 periods/],
  ])('%s', (fault, message) => {
    expect(faultsOf(`  - fault: { ${fault} }\n`).join('\n')).toMatch(message);
  });
});
