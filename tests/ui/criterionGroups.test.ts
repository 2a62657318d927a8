import { describe, expect, it } from 'vitest';
import { criterionSlots } from '@/core/criteria';
import { slotsRead } from '@/core/plan';
import { checkProject } from '@/core/project';
import { readFolder } from '@/server/folder';
import { criterionGroups, criterionLimits } from '@/ui/plot/lane/criterionSignals';

const projects = ['demo/tarn-lock', 'demo/quay-crane', 'demo/autoclave', 'tests/projects/lift', 'tests/projects/kiln', 'tests/projects/pasteuriser'];

describe.each(projects)('the lanes that criteria of %s begin with', (folder) => {
  it('hold each signal once, and together what one bound sets against each other', async () => {
    const checked = checkProject((await readFolder(folder)).files);
    const criteria = checked.criteria.flatMap(({ inLoop }) => [...inLoop.values()]);
    expect(criteria.length).toBeGreaterThan(1);
    for (const criterion of criteria) {
      const groups = criterionGroups(criterion);
      expect([...groups.flat()].sort()).toEqual([...criterionSlots(criterion)].sort());
      for (const atom of criterion.atoms) {
        if (atom.k !== 'bound') continue;
        const slots = [...slotsRead(atom.distance)].filter((slot) => criterionSlots(criterion).includes(slot));
        if (slots.length < 2) continue;
        const homes = new Set(slots.map((slot) => groups.findIndex((group) => group.includes(slot))));
        expect(homes.size).toBe(1);
      }
    }
  });

  it('have a line for each limit on a single signal, at its value', async () => {
    const checked = checkProject((await readFolder(folder)).files);
    for (const { inLoop, requirement } of checked.criteria)
      for (const criterion of inLoop.values())
        for (const { slot, value, label } of criterionLimits(criterion, requirement)) {
          expect(label).toBe(`limit ${value} · ${requirement}`);
          // What is worked out of signals, such as a rate, has no column and no lane.
          if (slot < 0) continue;
          expect(criterionSlots(criterion)).toContain(slot);
          const atom = criterion.atoms.find((one) => one.k === 'bound' && slotsRead(one.distance).has(slot));
          expect(atom).toBeDefined();
        }
  });
});
