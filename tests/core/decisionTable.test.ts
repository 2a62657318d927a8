import { describe, expect, it } from 'vitest';
import { column, projectOf, runCase } from '../support/project';

const table = (rules: string, rest = ''): string =>
  `component: Release
inputs: { door: { type: BOOL }, pressure: { type: LREAL, unit: kPa }, mode: { type: INT } }
outputs: { open: { type: BOOL }, level: { type: LREAL } }
behaviour:
  kind: decision table
  period: 1 s
  conditions: { shut: door, p: pressure, m: mode }
  rules:
${rules}
${rest}`;
const faultsOf = (rules: string, rest = ''): string[] =>
  projectOf({ 'components/r.yaml': table(rules, rest) }).faults.map((fault) => `${fault.place.line} ${fault.message}`);

describe('decision table', () => {
  it('acts by the rule that fits, or otherwise', () => {
    const project = projectOf({
      'components/r.yaml': table(
        `    - { when: { shut: TRUE, p: "< 20" }, then: { open: TRUE, level: pressure * 2 } }
    - { when: { p: ">= 20", m: "1 .. 3" }, then: { open: FALSE, level: 7 } }`,
        '  otherwise: { open: FALSE, level: -1 }\n',
      ),
      'loops/l.yaml':
        'loop: l\ncomponents: { r: { use: Release } }\ninputs: { door: { to: r.door }, pressure: { to: r.pressure }, mode: { to: r.mode } }\nsolver: { method: runge-kutta-4, step: 1 s }\nstop: 3 s\n',
      'cases/c.yaml':
        'case: only\nloop: l\nstimuli:\n  door: [{ hold: TRUE }, { step: FALSE, at: 3 s }]\n  pressure: [{ hold: 10 }, { step: 20, at: 1 s }, { step: 5, at: 3 s }]\n  mode: [{ hold: 3 }, { step: 4, at: 2 s }]\n',
    });
    const { trace } = runCase(project);
    expect([...column(trace, 'r.open').data]).toEqual([1, 0, 0, 0]);
    expect([...column(trace, 'r.level').data]).toEqual([20, 7, -1, -1]);
  });

  it('tells gaps by an example, and what stands in the way of being complete', () => {
    const rules = `    - { when: { shut: TRUE, p: "< 20" }, then: { open: TRUE } }
    - { when: { p: "> 20" }, then: { open: FALSE } }`;
    expect(faultsOf(rules)).toEqual(['8 No rule fits when shut is FALSE, p is below 20, m is anything.']);
    expect(faultsOf(rules, '  otherwise: { open: FALSE }\n')).toEqual([]);
  });

  it('tells overlaps that act differently, at the later rule; equal actions may overlap', () => {
    const rules = `    - { when: { p: "<= 20" }, then: { open: TRUE } }
    - { when: { p: "20 .. 30" }, then: { open: FALSE } }
    - { when: { p: ">= 30" }, then: { open: FALSE } }`;
    expect(faultsOf(rules)).toEqual(['10 Rules 1 and 2 both fit when shut is FALSE, p is 20, m is anything, and act differently.']);
  });

  it('tells what cannot be read', () => {
    const rules = `    - { when: { shut: maybe, pp: "< 20" }, then: { opened: TRUE, level: nothing } }`;
    expect(faultsOf(rules, '  otherwise: { open: 3 }\n')).toEqual([
      '9 shut: "maybe" is neither TRUE nor FALSE.',
      '9 There is no condition "pp" in this table.',
      '9 "opened" is not an output.',
      '9 There is no "nothing" here.',
      '10 This is a number, but TRUE or FALSE is expected.',
    ]);
  });
});
