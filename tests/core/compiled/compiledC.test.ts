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

  it(`agrees on ${plans} random plans over 1,000 steps`, async () => {
    let [faulty, compared] = [0, 0];
    const one = async (seed: number): Promise<void> => {
      const documents = randomProject(seed);
      const project = projectOf(documents);
      expect(project.faults.map((fault) => `${fault.message} ${JSON.stringify(documents)}`)).toEqual([]);
      const found = await expectSameBits(orderRun(project, project.cases[0]!)).catch((problem: unknown) => {
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
