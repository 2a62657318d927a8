import { describe, expect, it } from 'vitest';
import { isDocumentPath } from '@/core/documents';
import { inspectModel } from '@/core/picture';
import { projectOf } from '../support/project';

const component = (picture: string): string =>
  `component: Valve\npicture: ${picture}\noutputs: { y: { type: LREAL } }\nbehaviour: { kind: equations, outputs: { y: "1" } }\n`;
const loop = 'loop: l\ncomponents: { v: { use: Valve } }\nunused: [v.y]\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 1 s\n';
const svg = '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24"><circle r="3"></circle></svg>';

describe('the picture of a component', () => {
  it.each([
    ['one that comes along', 'valve', { lines: expect.stringMatching(/^M/) }],
    ['an SVG document of the project', 'own.svg', { svg }],
  ])('%s stands in its face and on its slip', (_, name, picture) => {
    const files = [
      { path: 'project.yaml', text: 'project: P\n' },
      { path: 'components/valve.yaml', text: component(name) },
      { path: 'loops/l.yaml', text: loop },
      { path: 'pictures/own.svg', text: svg },
    ];
    expect(inspectModel(files, 'component:Valve')).toMatchObject({ faults: [], face: { picture } });
    expect(inspectModel(files, 'loop:l').picture).toMatchObject({ slips: [{ id: 'v', picture }] });
  });

  it('has to be there, and to be one', () => {
    const told = (name: string, text = svg): string[] =>
      projectOf({ 'components/valve.yaml': component(name), 'pictures/own.svg': text, 'scenes/plant.svg': svg }).faults.map(
        ({ place, message, fix }) => `${place.file}:${place.line} ${message} ${fix}`,
      );
    expect(told('vavle')).toEqual(['components/valve.yaml:2 There is no picture "vavle". Did you mean "valve"?']);
    expect(told('own.sgv')).toEqual(['components/valve.yaml:2 There is no picture "own.sgv". Did you mean "own.svg"?']);
    // Pictures of scenes are none of components, nor is what every object has.
    for (const name of ['plant.svg', 'constructor']) expect(told(name)[0]).toContain(`There is no picture "${name}".`);
    expect(told('own.svg', '<html/>')).toEqual([expect.stringContaining('pictures/own.svg:1 This is not an SVG picture. Begin with <svg xmlns=')]);
    expect(told('own.svg', '<svg')).toHaveLength(1);
  });
});

it('documents of a project stand in its folders, and nowhere else', () => {
  const places = ['project.yaml', 'components/a.st', 'pictures/a.svg', 'scenes/a.SVG', 'requirements/a.reqif'];
  expect(places.filter(isDocumentPath)).toEqual(places);
  const others = [
    'a.yaml',
    'pictures/a.yaml',
    'components/a.exe',
    'components/deeper/a.yaml',
    '../project.yaml',
    'constructor/a.yaml',
    'cases/..\\a.yaml',
    'cases/',
    '',
  ];
  expect(others.filter(isDocumentPath)).toEqual([]);
});
