import { describe, expect, it } from 'vitest';
import type { SourceFile } from '@/core/documents';
import { emitScxml } from '@/core/emit/scxml';
import { nameKey } from '@/core/language';
import { checkProject, componentAsStructuredText } from '@/core/project';
import { readFolder } from '@/server/folder';
import { column, runCase } from '../support/project';

/** A component of a demo written as another text and put in the place of the first: all the loop's signals have to stay the same. */
async function exchanged(folder: string, component: string, to: 'st' | 'scxml'): Promise<{ before: SourceFile[]; after: SourceFile[] }> {
  const { files } = await readFolder(folder);
  const project = checkProject(files);
  const document = project.project.components.get(nameKey(component))!;
  const text = to === 'scxml' ? emitScxml(document.raw) : componentAsStructuredText(project.project, document);
  // Criteria and cases name states of charts, which Structured Text does not have.
  const before = files
    .filter(({ path }) => !path.startsWith('requirements/'))
    .map((file) => ({ ...file, text: file.text.replace(/^meant_for:.*$/m, '') }));
  const after = [...before.filter(({ path }) => path !== document.document.file), { path: `components/made.${to}`, text }];
  return { before, after };
}

describe.each([
  ['demo/quay-crane', 'SwayLaw', 'st', 'Across the quay', ['drive.accel', 'trolley.position']],
  ['demo/autoclave', 'Lethality', 'st', 'Full cycle', ['lethality.f0']],
  ['demo/autoclave', 'SteamLaw', 'st', 'Full cycle', ['chamber.pressure', 'chamber.temperature']],
  ['demo/autoclave', 'Cycle', 'st', 'Full cycle', ['chamber.pressure', 'cycle.passed', 'cycle.door_release']],
  ['demo/autoclave', 'Cycle', 'scxml', 'Full cycle', ['chamber.pressure', 'cycle.passed', 'cycle.door_release']],
  ['demo/tarn-lock', 'LockSupervisor', 'scxml', 'Upward transit, calm water', ['chamber.level', 'supervisor.filling', 'supervisor.alarm']],
] as const)('%s: %s as %s', (folder, component, to, name, signals) => {
  it('behaves alike, bit for bit', async () => {
    const { before, after } = await exchanged(folder, component, to);
    const needed = (files: SourceFile[]): SourceFile[] =>
      files.filter(
        ({ path, text }) =>
          !path.startsWith('desks/') && !path.startsWith('campaigns/') && (!path.startsWith('cases/') || text.startsWith(`case: ${name}`)),
      );
    const [one, other] = [runCase(checkProject(needed(before)), name), runCase(checkProject(needed(after)), name)];
    for (const signal of signals) expect([...column(other.trace, signal).data], signal).toEqual([...column(one.trace, signal).data]);
  });
});

it('what has no counterpart is named', () => {
  const project = checkProject([
    { path: 'project.yaml', text: 'project: p\n' },
    {
      path: 'components/c.yaml',
      text: 'component: C\noutputs: { y: { type: LREAL } }\nbehaviour: { kind: equations, states: { x: { start: 0 } }, derivatives: { x: "1" }, outputs: { y: x } }\n',
    },
  ]);
  const document = project.project.components.get('c')!;
  expect(() => emitScxml(document.raw)).toThrow('a component of the kind equations');
  expect(() => componentAsStructuredText(project.project, document)).toThrow('a continuous part');
});

it('functions and tables go out with the component that uses them', () => {
  const text = `FUNCTION Sum : DINT
VAR_INPUT a, b : DINT; END_VAR
VAR i : INT; kept : ARRAY[0..1] OF DINT; END_VAR
FOR i := 0 TO 1 DO kept[i] := a + i; END_FOR;
Sum := kept[0] + kept[1] + b;
END_FUNCTION
{period: 1 s}
FUNCTION_BLOCK Counter
VAR_OUTPUT y : DINT; END_VAR
VAR t : ARRAY[0..1, 1..2] OF DINT := [1, 2, 3, 4]; n : DINT; END_VAR
n := n + 1;
t[1, 2] := Sum(a := n, b := t[1, 2]);
y := t[1, 2] + t[0, 1];
END_FUNCTION_BLOCK
`;
  const around = [
    { path: 'project.yaml', text: 'project: p\n' },
    { path: 'loops/l.yaml', text: 'loop: l\ncomponents: { c: { use: Counter } }\nsolver: { method: runge-kutta-4, step: 1 s }\nstop: 5 s\n' },
    { path: 'cases/c.yaml', text: 'case: only\nloop: l\n' },
  ];
  const project = checkProject([...around, { path: 'components/c.st', text }]);
  const written = componentAsStructuredText(project.project, project.project.components.get('counter')!);
  const again = checkProject([...around, { path: 'components/c.st', text: written }]);
  expect([...column(runCase(again).trace, 'c.y').data]).toEqual([...column(runCase(project).trace, 'c.y').data]);
  expect([...column(runCase(project).trace, 'c.y').data]).toEqual([8, 13, 20, 29, 40, 53]);
});
