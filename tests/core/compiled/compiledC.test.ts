import { describe, expect, it } from 'vitest';
import { checkProject, orderRun } from '@/core';
import { demoFiles, projectOf } from '../../support/project';
import { expectSameBits } from './program';
import { randomProject } from './randomProject';

const plans = 500;

describe('compiled C of a plan', () => {
  it('gives the trace of the demo’s case bit for bit', async () => {
    const project = checkProject(await demoFiles());
    const test = project.cases.find((one) => one.experiment.case === 'Upward transit, upper reach sways')!;
    const { trace, faulty } = await expectSameBits(orderRun(project, test));
    expect(faulty).toBe(false);
    expect(trace.until).toBe(500);
  });

  it.each([
    ['written out', 40],
    ['over arrays', 41],
  ])('agrees when the stages are %s', async (_, states) => {
    const names = Array.from({ length: states }, (_one, index) => `x${index}`);
    const derivatives = names.map((name, index) => `    ${name}: "SIN(${names[(index + 1) % states]}) - 0.3 * ${name} + u"`).join('\n');
    const project = projectOf({
      'components/c.yaml': `component: Ring\ninputs: { u: { type: LREAL } }\noutputs: { y: { type: LREAL } }\nbehaviour:\n  kind: equations\n  states: { ${names.map((name, index) => `${name}: { start: ${index / 7} }`).join(', ')} }\n  derivatives:\n${derivatives}\n  outputs: { y: x0 + x1 }\n`,
      'loops/l.yaml':
        'loop: l\ncomponents: { c: { use: Ring } }\ninputs: { u: { to: c.u } }\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 5 s\n',
      'cases/c.yaml': 'case: only\nloop: l\nstimuli: { u: [{ hold: 0 }, { ramp: 1, from: 1 s, until: 2.005 s }, { step: 0, at: 3.001 s }] }\n',
    });
    const { trace } = await expectSameBits(orderRun(project, project.cases[0]!));
    expect(trace.until).toBe(5);
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
