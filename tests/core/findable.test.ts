import { describe, expect, it } from 'vitest';
import { inspectModel } from '@/core/picture';
import { checkProject, findableNames } from '@/core/project';
import { readFolder } from '@/server/folder';

describe.each(['demo/tarn-lock', 'demo/quay-crane', 'demo/autoclave', 'tests/projects/lift', 'tests/projects/dosing'])(
  'what can be found by name in %s',
  (folder) => {
    it('is all there is, each once, and leads to what shows it', async () => {
      const { files } = await readFolder(folder);
      const checked = checkProject(files);
      const found = findableNames(checked);
      expect(found.components.map(({ name }) => name)).toEqual([...checked.project.components.values()].map(({ raw }) => raw.component));
      expect(found.desks).toEqual([...checked.project.desks.values()].map(({ raw }) => raw.desk));
      const names = found.signals.map(({ name }) => name.toLowerCase());
      expect(new Set(names).size).toBe(names.length);
      for (const { catalogue } of checked.loops.values()) for (const { name } of catalogue.entries) expect(names).toContain(name.toLowerCase());
      // An address that nothing answers to would open the first loop.
      for (const at of new Set([...found.loops, ...found.components, ...found.signals].map((one) => one.at)))
        expect(inspectModel(files, at).at).toBe(at);
      // A signal of a component leads to that component, whatever it is called in the loop.
      for (const { name, at } of found.signals) {
        if (!at.startsWith('component:')) continue;
        const instance = name.split('.')[0]?.toLowerCase();
        const uses = [...checked.project.loops.values()].flatMap(({ raw }) =>
          Object.entries(raw.components).flatMap(([own, { use }]) => (own.toLowerCase() === instance ? [`component:${use}`.toLowerCase()] : [])),
        );
        expect(uses).toContain(at.toLowerCase());
      }
    });
  },
);
