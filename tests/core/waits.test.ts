import { describe, expect, it } from 'vitest';
import { derivedDocument, openSearch, stateNames, suiteOf } from '@/core/design';
import { nameKey } from '@/core/language';
import { checkProject } from '@/core/project';
import { simulate } from '@/core/simulate';
import { readFolder } from '@/server/folder';
import { column } from '../support/project';

const kinds = new Set(['triggered', 'state', 'transition', 'outcome'] as const);
const projects = await Promise.all(
  [
    ['tests/projects/crossing', 'crossing'],
    ['tests/projects/escalator', 'escalator'],
  ].map(async ([folder = '', loop = '']) => ({ folder, loop, files: (await readFolder(folder)).files })),
);
const lock = { folder: 'demo/tarn-lock', loop: 'lock', files: (await readFolder('demo/tarn-lock')).files };
const runs = 150;

describe('moves that wait for states', () => {
  it.each(projects)('come when the run says they came: $folder', ({ files, loop }) => {
    const search = openSearch(files, loop, { seed: 2, kinds }, true);
    while (search.runs < runs) search.step();
    const suite = suiteOf(search, search.known);
    // Found ones, some of them made to wait by chance, and small ones, which wait on purpose.
    const all = [...search.found, ...suite];
    expect(suite.filter(({ moves }) => moves.some(({ wait }) => wait)).length).toBeGreaterThan(0);
    let looked = 0;
    for (const [number, { moves, stopNs }] of all.entries()) {
      if (moves.every(({ wait }) => !wait)) continue;
      const raw = { ...search.document(moves, stopNs), case: `Waits ${number}` };
      const project = checkProject([
        ...files,
        derivedDocument(
          raw,
          { for: [], seed: 2 },
          files.map(({ path }) => path),
        ),
      ]);
      expect(project.faults).toEqual([]);
      const { experiment } = project.cases.find((one) => one.experiment.case === raw.case)!;
      const { trace, gaveUp } = simulate(experiment);
      expect(gaveUp).toBeUndefined();
      for (const { name, value, atNs, wait } of moves) {
        const last = moves.findLast((one) => nameKey(one.name) === nameKey(name) && one.atNs === atNs);
        if (value === undefined || atNs > stopNs || last?.value !== value || !wait) continue;
        const { time, data } = column(trace, name);
        // A script sees what came about where it looks next: one hit later at most.
        const valueAt = (t: number): number =>
          data[
            Math.max(
              0,
              [...time].findLastIndex((one) => one <= t),
            )
          ]!;
        const hit = Math.max(...experiment.plan.tasks.map(({ periodNs }) => periodNs)) / 1e9;
        expect(valueAt(atNs / 1e9 + hit + 1e-9), `${raw.case}: ${name} at ${atNs / 1e9} s`).toBe(Number(value));
        // It was not so before, unless it was already.
        const already = moves.some((one) => one.name === name && one.atNs < atNs && one.value === value);
        if (!already && Number(value) !== data[0]) expect(valueAt(atNs / 1e9 - hit - 1e-9)).not.toBe(Number(value));
        looked += 1;
      }
    }
    expect(looked).toBeGreaterThan(2);
  });

  it.each(projects)('give what a small case is there for in a run of its document: $folder', ({ files, loop }) => {
    const search = openSearch(files, loop, { seed: 1, kinds }, true);
    while (search.runs < runs) search.step();
    const suite = suiteOf(search, search.known);
    const taken = files.map(({ path }) => path);
    const documents = suite.map(({ moves, stopNs }, index) => {
      const document = derivedDocument({ ...search.document(moves, stopNs), case: `Small ${index}` }, { for: [], seed: 1 }, taken);
      taken.push(document.path);
      return document;
    });
    // A search that begins with them knows at once what they show: also what they wait for is read again.
    const withoutCases = files.filter(({ path }) => !path.startsWith('cases/'));
    const again = openSearch([...withoutCases, ...documents], loop, { seed: 5, kinds });
    for (const id of suite.flatMap((one) => one.goals.map((goal) => goal.id))) expect(again.known.has(id), id).toBe(true);
    expect(again.found.some(({ moves }) => moves.some(({ wait }) => wait))).toBe(true);
  });

  it.each([...projects, lock])('name each state so that it means that state and no other: $folder', ({ files, loop }) => {
    const { plan, catalogue } = checkProject(files).loops.get(loop)!;
    const names = stateNames(plan, catalogue);
    expect(names.size).toBe(plan.regions.flatMap(({ states }) => states).length);
    for (const [mark, name] of names) expect(catalogue.findState(name.split('.')), name).toBe(mark);
    expect(new Set(names.values()).size).toBe(names.size);
  });
});
