import { expect, it } from 'vitest';
import { restsOn } from '@/core/project';
import { projectOf } from '../support/project';

const source = (name: string, kind: string): string => `component: ${name}\noutputs: { y: { type: LREAL } }\nbehaviour: ${kind}\n`;

it('the result of a case rests on its loop and all in it at any depth, its recordings and sets, and on what is shared; on nothing else', () => {
  const documents = {
    'definitions.yaml': 'constants: { g: { value: 9.81, unit: m/s2 } }\n',
    'components/inner.yaml': source('Inner', '{ kind: equations, states: { s: { start: 0 } }, derivatives: { s: "1" }, outputs: { y: s } }'),
    'components/outer.yaml': source(
      'Outer',
      '{ kind: network, parts: { i: { use: Inner }, g: { use: gain, inputs: { in: i.y } } }, outputs: { y: g } }',
    ),
    'components/played.yaml': source('Played', '{ kind: recording, file: recordings/r.csv }'),
    'components/other.yaml': `${source('Other', '{ kind: equations, outputs: { y: k } }')}parameters: { k: { value: 1 } }\n`,
    'components/helper.st': 'FUNCTION half : LREAL\nVAR_INPUT x : LREAL; END_VAR\nhalf := x / 2.0;\nEND_FUNCTION\n',
    'recordings/r.csv': 'time[s],y\n0,1\n1,2\n',
    'recordings/unused.csv': 'time[s],y\n0,1\n1,2\n',
    'parameters/low.yaml': 'parameter_set: low\nvalues: { o.k: 0.5 }\n',
    'parameters/high.yaml': 'parameter_set: high\nvalues: { o.k: 2 }\n',
    'loops/first.yaml': `loop: first
components: { n: { use: Outer }, p: { use: Played } }
solver: { method: runge-kutta-4, step: 10 ms }
stop: 1 s
`,
    'loops/second.yaml': `loop: second
components: { o: { use: Played } }
variants: { plain: { components: { o: { use: Other } } } }
solver: { method: runge-kutta-4, step: 10 ms }
stop: 1 s
`,
    'cases/a.yaml': 'case: A\nloop: first\n',
    'cases/b.yaml': 'case: B\nloop: second\nvariant: plain\nparameter_sets: [low]\n',
    'requirements/1.yaml': 'section: One\nrequirements: [{ requirement: R-1, text: The tank shall be blue. }]\n',
  };
  const project = projectOf(documents);
  expect(project.faults).toEqual([]);
  const [first, second] = project.cases.map((test) => {
    const rests = restsOn(project.project, test);
    return Object.keys(documents).filter((path) => rests(path));
  });
  const fresh = restsOn(project.project, project.cases[0]!);
  expect(['components/helper.st', 'definitions.yaml', 'components/inner.yaml'].filter((path) => fresh(path, true))).toEqual([
    'components/inner.yaml',
  ]);
  const shared = ['definitions.yaml', 'components/helper.st'];
  const inFirst = [
    'components/inner.yaml',
    'components/outer.yaml',
    'components/played.yaml',
    'recordings/r.csv',
    'loops/first.yaml',
    'cases/a.yaml',
  ];
  expect(first?.sort()).toEqual([...shared, ...inFirst].sort());
  // The variant has put another component in place of the recording.
  expect(second?.sort()).toEqual([...shared, 'components/other.yaml', 'parameters/low.yaml', 'loops/second.yaml', 'cases/b.yaml'].sort());
});
