import { describe, expect, it } from 'vitest';
import { checkProject } from '@/core/project';
import { column, projectOf, runCase } from '../support/project';

const told = (files: Readonly<Record<string, string>>): { faults: string[]; warnings: string[] } => {
  const project = checkProject(Object.entries({ 'project.yaml': 'project: p\n', ...files }).map(([path, text]) => ({ path, text })));
  const line = ({ place, message }: (typeof project.faults)[number]): string => `${place.file.split('/').at(-1)}:${place.line} ${message}`;
  return { faults: project.faults.map(line), warnings: project.warnings.map(line) };
};
const chart = (states: string, rest = ''): Readonly<Record<string, string>> => ({
  'components/c.yaml': `component: C\ninputs: { u: { type: LREAL } }\noutputs: { y: { type: LREAL } }\nbehaviour:\n  kind: chart\n  period: 1 s\n${rest}  regions:\n    r:\n      initial: A\n      states:\n${states}`,
});

describe('what is suspicious is pointed out, and hinders nothing', () => {
  it.each([
    [
      'a state without a way out',
      chart('        A: { go: [{ to: B, when: u > 1.0 }] }\n        B: {}\n'),
      ['c.yaml:12 Nothing leads out of the state "r.B".'],
    ],
    [
      'a cause that stands twice',
      chart('        A: { go: [{ to: B, when: u > 1.0 }, { to: A, when: u  > 1.0 }] }\n        B: { go: [{ to: A, after: 1 s }] }\n'),
      ['c.yaml:11 An earlier transition has the same condition; this one is never taken.'],
    ],
    [
      'variables',
      chart('        A: { stay: "y := read; kept := u;" }\n', '  variables: { none: {}, read: {}, kept: {} }\n'),
      [
        'c.yaml:7 The variable "none" is not used.',
        'c.yaml:7 The variable "read" is read, but never written.',
        'c.yaml:7 The variable "kept" is written, but never read.',
      ],
    ],
    [
      'equal reals',
      chart('        A: { stay: "IF u = 0.3 THEN y := 1.0; END_IF;" }\n'),
      ['c.yaml:11 Two LREAL values are compared with "=": rounding decides.'],
    ],
    ['a constant condition', chart('        A: { stay: "IF 2 > 1 THEN y := u; END_IF;" }\n'), ['c.yaml:11 This condition is always the same.']],
  ])('%s', (_, files, wanted) => {
    const { faults, warnings } = told(files);
    expect(faults).toEqual([]);
    expect(warnings).toEqual(wanted);
  });

  it('a value that nothing needs', () => {
    const text = 'component: C\noutputs: { y: { type: LREAL } }\nbehaviour: { kind: equations, let: { a: "1", b: "2" }, outputs: { y: a } }\n';
    expect(told({ 'components/c.yaml': text })).toEqual({ faults: [], warnings: ['c.yaml:3 "b" is not used.'] });
  });
});

describe('parameters that do not go together', () => {
  const component =
    'component: Band\noutputs: { y: { type: LREAL } }\nparameters: { low: { value: 1 }, high: { value: 2 } }\nconstraints: [{ holds: low < high, message: the lower limit has to lie below the upper }]\nbehaviour: { kind: equations, outputs: { y: low } }\n';
  const loop = (values: string): string =>
    `loop: l\ncomponents: { b: { use: Band${values} } }\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 1 s\n`;

  it('are refused where the loop gives them', () => {
    expect(told({ 'components/c.yaml': component, 'loops/l.yaml': loop('') }).faults).toEqual([]);
    expect(told({ 'components/c.yaml': component, 'loops/l.yaml': loop(', parameters: { low: 3 }') }).faults).toEqual([
      'l.yaml:2 b: the lower limit has to lie below the upper.',
    ]);
  });

  it('and where a case does', () => {
    const files = { 'components/c.yaml': component, 'loops/l.yaml': loop(''), 'cases/c.yaml': 'case: c\nloop: l\nparameters: { b.high: 0.5 }\n' };
    expect(told(files).faults).toEqual(['c.yaml:3 b: the lower limit has to lie below the upper.']);
  });
});

describe('parameter sets and marks', () => {
  const files = {
    'components/c.yaml':
      'component: Gain\noutputs: { y: { type: LREAL } }\nparameters: { k: { value: 1, max: 9 }, size: { value: 2, tuning: fixed } }\nbehaviour: { kind: equations, outputs: { y: k * size } }\n',
    'loops/l.yaml': 'loop: l\ncomponents: { g: { use: Gain } }\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 1 s\n',
    'parameters/winter.yaml': 'parameter_set: winter tuning\nvalues: { g.k: 3 }\n',
    'parameters/summer.yaml': 'parameter_set: summer\nvalues: { g.k: 4 }\n',
  };
  it.each([
    ['parameter_sets: [winter tuning]', 6],
    ['parameter_sets: [winter tuning, summer]', 8],
    ['parameter_sets: [summer]\nparameters: { g.k: 5 }', 10],
  ])('later sets count over earlier ones, and the case’s own values over all (%s)', (text, wanted) => {
    const { trace } = runCase(projectOf({ ...files, 'cases/c.yaml': `case: c\nloop: l\n${text}\n` }));
    expect(column(trace, 'g.y').data.at(-1)).toBe(wanted);
  });

  it.each([
    ['parameter_sets: [wintr tuning]', 'c.yaml:3 There is no parameter set "wintr tuning".'],
    ['parameters: { g.size: 3 }', 'c.yaml:3 g.size is fixed when the thing is built.'],
  ])('%s is refused', (text, wanted) => {
    expect(told({ ...files, 'cases/c.yaml': `case: c\nloop: l\n${text}\n` }).faults).toEqual([wanted]);
  });

  it('a value outside its limits is told where the set has it', () => {
    const changed = {
      ...files,
      'parameters/winter.yaml': 'parameter_set: winter\nvalues: { g.k: 30 }\n',
      'cases/c.yaml': 'case: c\nloop: l\nparameter_sets: [winter]\n',
    };
    expect(told(changed).faults).toEqual(['winter.yaml:2 g.k = 30 is above its maximum, 9.']);
  });
});

describe('units that are often mixed up', () => {
  const part = (name: string, group: string, unit: string): string =>
    `component: ${name}\n${group}: { x: { type: LREAL, unit: "${unit}" } }\n${group === 'inputs' ? 'outputs: { y: { type: LREAL } }\n' : ''}behaviour: { kind: equations, outputs: { ${group === 'inputs' ? 'y: x' : 'x: 1.0'} } }\n`;
  it.each([
    ['%', '1', 'multiply by 0.01'],
    ['m/s', 'km/h', 'multiply by 3.6'],
    ['rad/s', 'm/s', 'a speed is not an angular speed'],
  ])('%s into %s: the fix says what to do', (from, to, wanted) => {
    const project = checkProject(
      Object.entries({
        'project.yaml': 'project: p\n',
        'components/a.yaml': part('A', 'outputs', from),
        'components/b.yaml': part('B', 'inputs', to),
        'loops/l.yaml':
          'loop: l\ncomponents: { a: { use: A }, b: { use: B } }\nwires: [{ from: a.x, to: b.x }]\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 1 s\n',
      }).map(([path, text]) => ({ path, text })),
    );
    expect(project.faults.map((fault) => `${fault.message} ${fault.fix}`).join('\n')).toContain(wanted);
  });
});
