import { describe, expect, it } from 'vitest';
import { laidCampaign, picturesOf, RunTable, sentenceOver, sumUp } from '@/core/campaign';
import { performRun } from '@/core/project';
import { projectOf } from '../support/project';

/** An oscillation that grows or decays at a rate that is a parameter, pushed once by a step. */
const project = (measures: string) =>
  projectOf({
    'components/p.yaml':
      'component: P\ninputs: { u: { type: LREAL } }\noutputs: { y: { type: LREAL } }\nparameters: { rate: { value: 0 } }\nbehaviour: { kind: equations, states: { x: { start: 0 }, v: { start: 0 } }, derivatives: { x: v, v: "2 * rate * v - (9 + rate * rate) * (x - u)" }, outputs: { y: x } }\n',
    'loops/l.yaml':
      'loop: l\ncomponents: { p: { use: P } }\nunused: [p.y]\ninputs: { u: { to: p.u } }\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 40 s\n',
    'cases/c.yaml': 'case: c\nloop: l\nstimuli: { u: [{ step: 1, at: 2 s }] }\n',
    'campaigns/x.yaml': `campaign: X\nvary: { p.rate: { list: [-0.2, -0.05, 0.05, 0.1] } }\nmeasures: { ${measures} }\n`,
  });
const made = (measures: string) => {
  const checked = project(measures);
  expect(checked.faults).toEqual([]);
  const laid = laidCampaign(checked, checked.campaigns[0]!);
  const table = new RunTable(laid.columns, laid.total);
  for (const run of laid.runs().runs) table.put(run.number - 1, performRun(run.order).result);
  return { laid, table };
};

describe('measures of stability', () => {
  it('are the rate at which a response grows or decays, by its poles and by its swings', () => {
    const { laid, table } = made('poles: largest real part of the poles at 1 s, growth: growth of p.y');
    for (let run = 1; run <= laid.total; run += 1) {
      const rate = Number(laid.pointOf(run)[0]);
      const [poles, growth] = [0, 1].map((column) => table.finding(column, run - 1)!.margin!);
      expect(poles!.unit).toBe('1/s');
      expect(poles!.value).toBeCloseTo(rate, 6);
      expect(growth!.value).toBeCloseTo(rate, 2);
    }
  });

  it('say in how many runs the loop is unstable, and are drawn so', () => {
    const { laid, table } = made('poles: largest real part of the poles at 1 s');
    const [found] = sumUp(table, laid);
    expect(sentenceOver(found!, laid.quantities)).toMatch(/^poles: above 0 in 2 of 4 runs: the loop is unstable there; .*greatest 0\.1 1\/s/);
    const pictures = picturesOf(table, laid, 0);
    expect(pictures.runs.map((run) => run.verdict)).toEqual(['pass', 'pass', 'fail', 'fail']);
    expect(pictures.worst[0]?.margin).toBeCloseTo(0.1, 6);
  });

  it('are refused where the signal is not there, or the instant is none', () => {
    const told = (measures: string) =>
      project(measures)
        .faults.map((one) => one.message)
        .join();
    expect(told('g: growth of p.z')).toMatch(/no signal "p.z"/);
    expect(told('g: largest real part of the poles at 5 furlongs')).toMatch(/5 furlongs/);
  });
});
