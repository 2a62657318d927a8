import type { Criterion } from '@/core/criteria';
import type { Limit } from './LanePlot';

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
