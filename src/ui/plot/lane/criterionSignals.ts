import { type Criterion, criterionSlots } from '@/core/criteria';
import { slotsRead } from '@/core/plan';
import type { Limit } from './Lane';

/** Limits a criterion puts on single signals, to be drawn as lines. */
export function criterionLimits(criterion: Criterion, label = ''): Limit[] {
  const behind = label === '' ? '' : ` · ${label}`;
  return criterion.atoms.flatMap((atom) => {
    if (atom.k !== 'bound' || atom.distance.k !== 'arithmetic' || atom.distance.operator !== '-') return [];
    const { a, b } = atom.distance;
    if (a.k === 'const' && b.k === 'slot') return [{ slot: b.slot, value: a.value, label: `limit ${a.value}${behind}` }];
    if (b.k === 'const' && a.k === 'slot') return [{ slot: a.slot, value: b.value, label: `limit ${b.value}${behind}` }];
    return [];
  });
}

/** The signals a criterion speaks of, those that one bound sets against each other together: a reference and what is to follow it. */
export function criterionGroups(criterion: Criterion): number[][] {
  const groups: number[][] = [];
  for (const slot of criterionSlots(criterion)) {
    const together = criterion.atoms
      .filter((atom) => atom.k === 'bound')
      .map(({ distance }) => [...slotsRead(distance)])
      .find((slots) => slots.includes(slot));
    const group = groups.find((one) => one.some((other) => together?.includes(other)));
    if (group) group.push(slot);
    else groups.push([slot]);
  }
  return groups;
}
