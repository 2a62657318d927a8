import { describe, expect, it } from 'vitest';
import { compileProgram, nobody } from '@/core/emit/js';
import { orderRun, performRun } from '@/core/project';
import { hashTrace } from '@/core/trace';
import { column, projectOf, runCase } from '../support/project';

const swing = `component: Swing
inputs: { push: { type: LREAL } }
outputs: { y: { type: LREAL } }
behaviour: { kind: equations, states: { x: { start: 1 }, v: { start: 0 } }, derivatives: { x: v, v: "push - 25.0 * x" }, outputs: { y: x } }
`;
const counter = 'component: Counter\noutputs: { n: { type: LREAL } }\nbehaviour: { kind: routine, period: 40 ms, body: "n := n + 1.0;" }\n';
const project = (step: number, period: number, stop = '4 s') =>
  projectOf({
    'components/swing.yaml': swing,
    'components/counter.yaml': counter,
    'loops/l.yaml': `loop: l\ncomponents: { s: { use: Swing }, c: { use: Counter, period: ${period} ms } }\ninputs: { push: { to: s.push } }\nsolver: { method: runge-kutta-4, step: ${step} ms }\nstop: ${stop}\n`,
    'cases/c.yaml': 'case: only\nloop: l\n',
  });
const end = (step: number, period: number): { y: number; n: number } => {
  const { trace } = runCase(project(step, period));
  return { y: column(trace, 's.y').data.at(-1)!, n: column(trace, 'c.n').data.at(-1)! };
};

describe('emitted programs', () => {
  it('of plans that differ in the step or in a period alone are not taken for each other', () => {
    const error = ({ y }: { y: number }): number => Math.abs(y - Math.cos(20));
    const [coarse, fine] = [end(40, 40), end(20, 40)];
    // Of order 4.
    expect(Math.log2(error(coarse) / error(fine))).toBeCloseTo(4, 0);
    expect([coarse.n, fine.n, end(20, 80).n, end(40, 80).n]).toEqual([101, 101, 51, 51]);
    expect(error(end(20, 80))).toBeCloseTo(error(fine), 12);
  });

  it('give the same bits before and after the fast way is compiled', () => {
    // A short run ends before it; the long one begins over arrays and goes over in its middle, and the third is fast from its beginning.
    const short = runCase(project(20, 60, '0.3 s'));
    const [first, second] = [runCase(project(20, 60)), runCase(project(20, 60))];
    expect(hashTrace(second.trace)).toBe(hashTrace(first.trace));
    const y = column(first.trace, 's.y');
    const early = column(short.trace, 's.y').data;
    expect(early.length).toBeGreaterThan(15);
    expect([...early]).toEqual([...y.data.slice(0, early.length)]);
  });

  it('take the fast way after some calls, with the log and the listener they have by then', () => {
    const one = project(10, 40, '1 s');
    const { plan } = one.cases[0]!.experiment;
    const { program, texts, tenancy } = compileProgram(plan, []);
    program.begin(nobody, texts, tenancy);
    const { advance } = program;
    const [times] = program.log.columns;
    program.outputs(0);
    let row = 1;
    for (let i = 0; i < 20; i += 1) row = program.advance(40e6 * i, 10e6, 4, row);
    expect(program.advance).not.toBe(advance);
    // Rows before every step but the first of each call.
    expect(row).toBe(61);
    expect([...(times as Float64Array).slice(1, 61)]).toEqual(
      Array.from({ length: 60 }, (_, i) => (40 * Math.floor(i / 3) + 10 * ((i % 3) + 1)) / 1000),
    );
    const { trace } = performRun({ experiment: one.cases[0]!.experiment, watched: [], limitSeconds: 600 });
    expect(column(trace, 's.y').data.length).toBeGreaterThan(100);
  });
});

describe('an order', () => {
  it('is plain data: another thread makes the same of it, places of run-time errors included', () => {
    const failing = projectOf({
      'components/c.yaml':
        'component: C\noutputs: { y: { type: DINT } }\nbehaviour:\n  kind: routine\n  period: 1 s\n  body: |\n    y := y + 1;\n    y := 10 / (3 - y);\n',
      'loops/l.yaml': 'loop: l\ncomponents: { c: { use: C } }\nsolver: { method: runge-kutta-4, step: 1 s }\nstop: 9 s\n',
      'cases/c.yaml': 'case: only\nloop: l\n',
    });
    const order = orderRun(failing, failing.cases[0]!);
    const [here, there] = [performRun(order).result, performRun(structuredClone(order)).result];
    expect(there).toEqual(here);
    expect(here.error?.message).toMatch(/division by zero in "10 \/ \(3 - y\)" \(components\/c\.yaml:8:10\)/);
  });
});
