import { beforeAll, describe, expect, it } from 'vitest';
import { type CheckedProject, checkProject, orderRun, performRun } from '@/core/project';
import { readFolder } from '@/server/folder';
import { column } from '../support/project';

let project: CheckedProject;
beforeAll(async () => {
  project = checkProject((await readFolder('tests/projects/booster')).files);
});
const run = (name: string) => performRun(orderRun(project, project.cases.find((one) => one.experiment.case === name)!));

describe('the booster station', () => {
  it('stops both pumps where the wire of the sensor is broken, and is told so by the case itself', () => {
    const { result, trace } = run('Broken wire');
    expect(result.expected.map((one) => one.outcome)).toEqual(['met']);
    expect(result.results.find((one) => one.requirement === 'BS-02')?.verdict).toBe('pass');
    // The pressure itself was sound all the time.
    expect(Math.min(...column(trace, 'pipe.pressure').data)).toBeGreaterThan(1);
    expect(column(trace, 'station.pressure as received').data.at(-1)).toBe(0);
  });

  it('holds the pressure too high by as much as the sensor reads too low', () => {
    const { trace } = run('Stuck sensor');
    const [seen, is] = [column(trace, 'station.pressure as received'), column(trace, 'pipe.pressure')];
    const at = (of: typeof seen, t: number): number => of.data[of.time.findIndex((one) => one >= t - 1e-9)]!;
    expect(at(seen, 20)).toBe(at(is, 20));
    expect(at(seen, 60)).toBe(at(is, 60) - 0.8);
    expect(at(seen, 200)).toBe(at(is, 200));
  });
});
