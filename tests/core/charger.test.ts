import { beforeAll, describe, expect, it } from 'vitest';
import { laidSweep, RunTable, sumUp } from '@/core/campaign';
import { type CheckedProject, checkProject, orderRun, performRun } from '@/core/project';
import { pointsOf, type Quantity } from '@/core/variation';
import { readFolder } from '@/server/folder';
import { column } from '../support/project';

/** A charger for a traction battery, written from the docs by a newcomer: hours of simulated time, cases that are like others, stimuli of several kinds. */
let project: CheckedProject;
beforeAll(async () => {
  project = checkProject((await readFolder('tests/projects/charger')).files);
});
const named = (name: string) => project.cases.find((one) => one.experiment.case === name)!;

describe('the charger', () => {
  it('has cases that hold what they take over from another one', () => {
    expect(project.faults).toEqual([]);
    const { experiment } = named('Hot day');
    const night = named('Night charge').experiment;
    const plugged = experiment.plan.inputs.findIndex((input) => input.name === 'plugged');
    const ofPlug = (changes: typeof night.stimuli) => changes.filter((change) => change.input === plugged);
    expect(ofPlug(experiment.stimuli)).toEqual(ofPlug(night.stimuli));
    expect([experiment.waves?.length ?? 0, experiment.walks?.length ?? 0]).toEqual([0, 1]);
    expect([night.waves?.length ?? 0, night.walks?.length ?? 0]).toEqual([2, 0]);
  });

  it('fills the battery by the charge that has flowed, through a plug that comes loose', () => {
    const { trace } = performRun(orderRun(project, named('Loose plug')));
    const current = column(trace, 'charger.current');
    // Held values: the sum over the hits is the integral.
    const flowed = current.data.reduce((sum, value, row) => sum + value * ((current.time[row + 1] ?? trace.until) - current.time[row]!), 0);
    expect(column(trace, 'battery.charge').data.at(-1)).toBeCloseTo(0.2 + flowed / (40 * 3600), 6);
    const plugged = column(trace, 'plugged');
    expect(plugged.data.filter((value, row) => value === 0 && plugged.data[row - 1] === 1)).toHaveLength(6);
  });

  it('breaks its limit of current just where it is rated above it', () => {
    const rated: Quantity = { name: 'charger.rated', spread: { k: 'levels', levels: [10, 20, 30, 31, 40] } };
    const laid = laidSweep(project, named('Night charge'), [rated], pointsOf({ k: 'grid' }, [rated], 0), { k: 'same' }, 'none');
    const table = new RunTable(laid.columns, laid.total);
    for (const { number, order } of laid.runs().runs) table.put(number - 1, performRun(order).result);
    const [limit] = sumUp(table, laid);
    expect([limit?.requirement, limit?.passed, limit?.failed, limit?.least?.value]).toEqual(['BC-01', 3, 2, -10]);
  });
});
