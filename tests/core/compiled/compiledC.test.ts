import { describe, expect, it } from 'vitest';
import { checkProject, orderRun } from '@/core/project';
import { readFolder } from '@/server/folder';
import { demoFiles, projectOf } from '../../support/project';
import { expectSameBits } from './program';
import { randomProject } from './randomProject';

/** All 500 in the long run. */
const plans = process.env.OVRAND_LONG ? 500 : 60;

describe('compiled C of a plan', () => {
  it('gives the trace of the demo’s case bit for bit', async () => {
    const project = checkProject(await demoFiles());
    const test = project.cases.find((one) => one.experiment.case === 'Upward transit, upper reach sways')!;
    const { trace, faulty } = await expectSameBits(orderRun(project, test));
    expect(faulty).toBe(false);
    expect(trace.until).toBe(500);
  });

  it.each([
    ['runge-kutta-4, written out', 40],
    ['runge-kutta-4, over arrays', 41],
    ['heun', 3],
    ['euler', 3],
  ])('agrees with %s', async (way, states) => {
    const names = Array.from({ length: states }, (_one, index) => `x${index}`);
    const derivatives = names.map((name, index) => `    ${name}: "SIN(${names[(index + 1) % states]}) - 0.3 * ${name} + u"`).join('\n');
    const project = projectOf({
      'components/c.yaml': `component: Ring\ninputs: { u: { type: LREAL } }\noutputs: { y: { type: LREAL } }\nbehaviour:\n  kind: equations\n  states: { ${names.map((name, index) => `${name}: { start: ${index / 7} }`).join(', ')} }\n  derivatives:\n${derivatives}\n  outputs: { y: x0 + x1 }\n`,
      'loops/l.yaml': `loop: l\ncomponents: { c: { use: Ring } }\ninputs: { u: { to: c.u } }\nsolver: { method: ${way.split(',')[0]}, step: 10 ms }\nstop: 5 s\n`,
      'cases/c.yaml':
        'case: only\nloop: l\nstimuli: { u: [{ hold: 0 }, { ramp: 1, from: 1 s, until: 2.005 s }, { sine: 0.5, from: 2.1 s, until: 2.9 s, period: 300 ms }, { step: 0, at: 3.001 s }, { walk: 1, from: 3.2 s, until: 4.7 s, every: 70 ms, within: [-2, 2] }] }\n',
    });
    const { trace } = await expectSameBits(orderRun(project, project.cases[0]!));
    expect(trace.until).toBe(5);
  });

  it('agrees for the demo with a network, a chart of nested states and a steam table', async () => {
    const project = checkProject((await readFolder('demo/autoclave')).files);
    const { faulty } = await expectSameBits(orderRun(project, project.cases.find((one) => one.experiment.case === 'Full cycle')!));
    expect(faulty).toBe(false);
  });

  it('agrees for messages, history and random numbers', async () => {
    const project = projectOf({
      'components/c.yaml': `component: C
outputs: { y: { type: LREAL }, z: { type: LREAL } }
behaviour:
  kind: chart
  period: 100 ms
  regions:
    r:
      initial: On
      states:
        On:
          initial: Slow
          history: { H: { deep: true, default: Slow } }
          entry: "SEND(tick, DELAY := T#700ms, VALUE := DRAW_UNIFORM(1.0, 2.0), ID := t);"
          go: [{ to: Off, on: tick, do: "y := y + payload;" }, { to: Off, on: full }]
          states:
            Slow: { stay: "z := z + DRAW_NORMAL(0.0, 0.5);", go: [{ to: Fast, when: z > 1.0, do: "RAISE(seen, VALUE := z);" }] }
            Fast: { entry: "CANCEL(t);", stay: "z := z + 1.0;", go: [{ to: Slow, on: seen, do: "y := y - payload;" }, { to: Slow, when: z > 4.0, do: "z := -2.0; RAISE(full);" }] }
        Off: { go: [{ to: H, after: 300 ms }] }
`,
      'loops/l.yaml': 'loop: l\ncomponents: { c: { use: C } }\nsolver: { method: runge-kutta-4, step: 100 ms }\nstop: 100 s\n',
      'cases/c.yaml': 'case: only\nloop: l\n',
    });
    const { trace, faulty } = await expectSameBits(orderRun(project, project.cases[0]!));
    expect(faulty).toBe(false);
    expect(new Set(trace.columns.find((one) => one.name === 'c.y')!.data).size).toBeGreaterThan(10);
  });

  it(`agrees on ${plans} random plans over 1,000 steps`, async () => {
    let [faulty, compared] = [0, 0];
    const one = async (seed: number): Promise<void> => {
      const documents = randomProject(seed);
      const project = projectOf(documents);
      expect(project.faults.map((fault) => `${fault.message} ${JSON.stringify(documents)}`)).toEqual([]);
      const found = await expectSameBits(orderRun(project, project.cases[0]!), seed % 10 === 0 ? '-O2' : '-O1').catch((problem: unknown) => {
        throw new Error(`seed ${seed}: ${problem instanceof Error ? problem.message : String(problem)}\n${Object.values(documents).join('\n---\n')}`);
      });
      compared += 1;
      if (found.faulty) faulty += 1;
    };
    const seeds = Array.from({ length: plans }, (_, seed) => seed);
    const worker = async (): Promise<void> => {
      for (let seed = seeds.pop(); seed !== undefined; seed = seeds.pop()) await one(seed);
    };
    await Promise.all([worker(), worker()]);
    expect(compared).toBe(plans);
    // Run-time errors are met, but most plans run to their end.
    expect(faulty).toBeGreaterThan(0);
    expect(faulty).toBeLessThan(plans / 2);
  }, 600_000);
});
