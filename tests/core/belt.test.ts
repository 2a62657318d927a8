import { expect, it } from 'vitest';
import { checkProject, orderRun, performRun } from '@/core/project';
import { readFolder } from '@/server/folder';

it('what is on a belt still falls into the bin after the gate is shut: 2 kg for each second of the way', async () => {
  const project = checkProject((await readFolder('tests/projects/belt')).files);
  expect([project.faults, project.warnings]).toEqual([[], []]);
  const last = project.cases.map((test) => {
    const { trace, result } = performRun(orderRun(project, test));
    const mass = trace.columns.find(({ name }) => name === 'belt.mass')?.data.at(-1);
    return { case: test.experiment.case, mass, worst: result.results.map((one) => Number(one.obligations[0]?.margin?.value.toFixed(3))) };
  });
  // The gate shuts at the first hit at which 42 kg are there: 42.2 kg, with 2 kg/s for 4 s or 9 s on the way. From the start to 49 kg: 4 s, 24.5 s; or 9 s, 24.5 s.
  expect(last).toEqual([
    { case: 'One batch', mass: expect.closeTo(50.2, 6), worst: [0.8, 11.5] },
    { case: 'A slow belt', mass: expect.closeTo(60.2, 6), worst: [-9.2, 6.5] },
  ]);
});
