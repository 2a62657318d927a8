import { describe, expect, it } from 'vitest';
import { documentFolders, isDocumentPath, topDocuments } from '@/core/documents';
import { checkProject } from '@/core/project';

/** One sound document for each place of a project, with what shows that it was read. */
const documents: Readonly<Record<string, readonly [text: string, seen: (project: ReturnType<typeof checkProject>) => unknown]>> = {
  'project.yaml': ['project: Mill\n', ({ project }) => project.name === 'Mill'],
  'definitions.yaml': [
    'enumerations: { Mode: [Idle, Busy] }\n',
    ({ project }) => project.definitions.get('mode.idle') ?? project.definitions.get('idle'),
  ],
  'coverage.yaml': [
    'justified: [{ part: state l k.m.Off, reason: never, by: us, on: 2026-11-30, logic: abc }]\n',
    ({ project }) => project.justified.length === 1,
  ],
  'words.yaml': ['synonyms: { the wheel: mill.speed }\n', ({ project }) => project.words.synonyms['the wheel']],
  'requirements/a.yaml': ['section: S\nrequirements: [{ requirement: R1, text: It turns. }]\n', ({ project }) => project.requirements.length === 1],
  'components/a.yaml': [
    'component: A\noutputs: { y: { type: LREAL } }\nparameters: { k: { value: 1 } }\nbehaviour: { kind: equations, outputs: { y: k } }\n',
    ({ project }) => project.components.has('a'),
  ],
  'components/b.st': [
    'FUNCTION_BLOCK B {period: 1 s} VAR_OUTPUT y : BOOL; END_VAR y := TRUE; END_FUNCTION_BLOCK\n',
    ({ project }) => project.components.has('b'),
  ],
  'components/c.scxml': [
    '<scxml xmlns="http://www.w3.org/2005/07/scxml" xmlns:o="urn:ovrand:chart" version="1.0" name="Third" o:period="1 s"><state id="a"/></scxml>\n',
    ({ project }) => project.components.size > 0,
  ],
  'loops/b.yaml': [
    'loop: m\ncomponents: { b: { use: B } }\nunused: [b.y]\nsolver: { method: euler, step: 1 s }\nstop: 1 s\n',
    ({ project }) => project.loops.has('m'),
  ],
  'loops/a.yaml': [
    'loop: l\ncomponents: { a: { use: A } }\nsolver: { method: euler, step: 1 s }\nstop: 1 s\n',
    ({ project }) => project.loops.has('l'),
  ],
  'cases/a.yaml': ['case: c\nloop: l\n', ({ project }) => project.cases.has('c')],
  'campaigns/a.yaml': ['campaign: Many\nvary: { a.k: { list: [1, 2] } }\n', ({ project }) => project.campaigns.has('many')],
  'parameters/a.yaml': ['parameter_set: Summer\nvalues: { a.k: 1 }\n', ({ project }) => project.parameterSets.has('summer')],
  'recordings/a.csv': ['time[s],y\n0,1\n', ({ project }) => project.recordings.has('recordings/a.csv')],
  'benches/a.yaml': ['bench: b\nloop: m\ncycle: 1 s\ninputs: {}\noutputs: { b.y: {} }\n', ({ project }) => project.benches.has('b')],
  'pairings/a.yaml': ['pairing: p\ncontroller: m\nhost: l\nunused: [b.y]\n', ({ project }) => project.pairings.has('p')],
  'units/a.fmu': ['UEsFBgAAAAAAAAAAAAAAAAAAAAAAAA==', ({ project }) => project.units.has('units/a.fmu')],
  'desks/a.yaml': ['desk: d\nloop: l\nitems: [{ signal: a.y, as: figure }]\n', ({ project }) => project.desks.has('d')],
  'scenes/a.yaml': ['scene: s\nloop: l\npicture: a.svg\nmoves: [{ part: bar, by: a.y, text: true }]\n', ({ project }) => project.scenes.has('s')],
  'scenes/a.svg': ['<svg xmlns="http://www.w3.org/2000/svg"><text id="bar">x</text></svg>\n', ({ project }) => project.pictures.has('scenes/a.svg')],
  'pictures/a.svg': ['<svg xmlns="http://www.w3.org/2000/svg"/>\n', ({ project }) => project.pictures.has('pictures/a.svg')],
};

const check = (paths: readonly (readonly [path: string, text: string])[]) => checkProject(paths.map(([path, text]) => ({ path, text })));

describe('the places of a project', () => {
  it('each have a document here', () => {
    const places = Object.keys(documents).map((path) => (path.includes('/') ? path.split('/')[0] : path));
    expect([...new Set(places)].sort()).toEqual([...topDocuments, ...Object.keys(documentFolders)].sort());
  });

  it.each(Object.entries(documents))('%s is read', (path, [text, seen]) => {
    expect(isDocumentPath(path)).toBe(true);
    expect(seen(check([[path, text]]))).toBeTruthy();
  });

  it('together they are a sound project', () => {
    const { faults } = check(Object.entries(documents).map(([path, [text]]) => [path, text]));
    expect(faults.map(({ place, message }) => `${place.file} ${message}`)).toEqual([]);
  });

  it.each(
    Object.entries(documents)
      .filter(([path]) => path.includes('/'))
      .map(([path, [text, seen]]) => [path.replace(/\.\w+$/, (ending) => ending.toUpperCase()), text, seen] as const),
  )('%s is read, whatever the case of its ending', (path, text, seen) => {
    expect(isDocumentPath(path)).toBe(true);
    const found = check([[path, text]]);
    const { recordings, pictures, units } = found.project;
    const byPath = /^(recordings|units)/.test(path) || path.endsWith('.SVG');
    expect(byPath ? recordings.size + pictures.size + units.size : seen(found)).toBeTruthy();
  });

  it.each(['components/a.txt', 'cases/a.csv', 'benches/a.txt', 'a.yaml', 'recordings/a.yaml', 'constructor/a.yaml', '__proto__/a.yaml'])(
    '%s is not',
    (path) => {
      expect(isDocumentPath(path)).toBe(false);
      expect(check([[path, 'component: A\nloop: l\ncase: c\n']]).faults.map((fault) => fault.message)).toEqual(['The folder has no project.yaml.']);
    },
  );

  it('are read in the order of their paths, however they are given', () => {
    const twice = (text: string): [string, string][] => [
      ['components/z.yaml', text],
      ['components/a.yaml', text],
    ];
    const [text] = documents['components/a.yaml']!;
    for (const files of [twice(text), twice(text).reverse()])
      expect(check([...files, ['project.yaml', 'project: P\n']]).faults.map(({ place }) => place.file)).toEqual(['components/z.yaml']);
  });
});
