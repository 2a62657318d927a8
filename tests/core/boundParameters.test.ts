import { describe, expect, it } from 'vitest';
import { componentAsStructuredText } from '@/core/project';
import { column, projectOf, runCase } from '../support/project';

const inner = `component: Inner
inputs: { u: { type: LREAL } }
outputs: { y: { type: LREAL, max: 100 } }
parameters: { k: { value: 2, min: 0, max: 5 } }
behaviour: { kind: network, period: 10 ms, parts: { g: { use: gain, parameters: { k: K }, inputs: { in: u } } }, outputs: { y: g } }
`;
const outer = (parameters: string): string => `component: Outer
inputs: { u: { type: LREAL } }
outputs: { y: { type: LREAL, min: -100 } }
parameters: { gain: { value: 3, min: 0, max: 5 } }
behaviour: { kind: network, period: 10 ms, parts: { a: { use: Inner, parameters: { k: ${parameters} }, inputs: { u: u } } }, outputs: { y: a } }
`;
const run = (parameters: string, more = 'parameters: { o.gain: 2.5 }', u = 4) =>
  runCase(
    projectOf({
      'components/i.yaml': inner,
      'components/o.yaml': outer(parameters),
      'loops/l.yaml': 'loop: l\ncomponents: { o: { use: Outer } }\ninputs: { u: { to: o.u } }\nsolver: { method: euler, step: 10 ms }\nstop: 1 s\n',
      'cases/c.yaml': `case: c\nloop: l\n${more}\nstimuli: { u: [{ hold: ${u} }] }\n`,
    }),
  );

describe('parameters of a network', () => {
  it('reach its parts, and theirs, as one value', () => {
    expect([...column(run('gain').trace, 'o.y').data]).toEqual([...column(run('2.5', '').trace, 'o.y').data]);
    expect(column(run('gain').trace, 'o.y').data.at(-1)).toBe(10);
  });
  it('may be changed in a run', () => {
    const { trace } = run('gain', 'script: [{ hold: 500 ms }, { change: { o.gain: 1 } }]');
    expect([column(trace, 'o.y').data.at(0), column(trace, 'o.y').data.at(-1)]).toEqual([12, 4]);
  });
});

describe('an output of a network', () => {
  it('keeps to the limits of every face it goes out of', () => {
    const said = (u: number): string[] => run('gain', '', u).result.implausible.map(({ message }) => message);
    expect(said(30)).toEqual([]);
    expect(said(40)).toEqual(['implausible value: o.y 120 at 0 s, allowed −100…100']);
    expect(said(-40)).toEqual(['implausible value: o.y −120 at 0 s, allowed −100…100']);
  });
});

describe('a parameter of a FUNCTION_BLOCK', () => {
  const text = `{period: 10 ms}
FUNCTION_BLOCK Law
VAR_INPUT u : LREAL; k : LREAL := 2.0; {parameter, unit: "1/s", min: 0, max: 5, about: "of the law"} wait : TIME := T#20ms; {parameter, tuning: fixed} END_VAR
VAR_OUTPUT y : LREAL := -1.5; END_VAR
IF task_time >= wait THEN y := k * u; END_IF;
END_FUNCTION_BLOCK
`;
  const documents = {
    'components/law.st': text,
    'loops/l.yaml':
      'loop: l\ncomponents: { law: { use: Law, parameters: { k: 3 } } }\ninputs: { u: { to: law.u, start: 2 } }\nsolver: { method: euler, step: 10 ms }\nstop: 100 ms\n',
    'cases/c.yaml': 'case: c\nloop: l\nparameters: { law.k: 4 }\n',
  };
  it('is one of its face, with unit, limits and tuning', () => {
    const project = projectOf(documents);
    expect(project.project.components.get('law')?.raw.parameters).toEqual({
      k: { type: 'LREAL', unit: '1/s', min: 0, max: 5, about: 'of the law', value: 2 },
      wait: { type: 'TIME', tuning: 'fixed', value: '0.02 s' },
    });
    // A start value with a sign counts, too.
    expect([...column(runCase(project).trace, 'law.y').data].slice(0, 4)).toEqual([-1.5, -1.5, 8, 8]);
  });
  it('stays one in what is written', () => {
    const { project } = projectOf(documents);
    const written = componentAsStructuredText(project, project.components.get('law')!);
    const again = projectOf({ ...documents, 'components/law.st': written });
    expect(again.project.components.get('law')?.raw.parameters).toEqual(project.components.get('law')?.raw.parameters);
    expect([...column(runCase(again).trace, 'law.y').data]).toEqual([...column(runCase(projectOf(documents)).trace, 'law.y').data]);
  });
  it('needs a value', () => {
    const { faults } = projectOf({
      'components/law.st':
        'FUNCTION_BLOCK B {period: 1 s} VAR_INPUT k : LREAL; {parameter} END_VAR VAR_OUTPUT y : LREAL; END_VAR y := k; END_FUNCTION_BLOCK',
    });
    expect(faults.map(({ message }) => message)).toEqual(['The parameter "k" has no value.']);
  });
});
