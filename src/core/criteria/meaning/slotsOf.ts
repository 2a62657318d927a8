import { type SlotNumber, slotsRead } from '@/core/plan';
import { slotBehind } from '../truth/rates';
import type { Criterion } from '../types';

/** Signals a criterion speaks of, in the order in which it names them. */
export function criterionSlots({ atoms, pattern }: Criterion): SlotNumber[] {
  const slots = new Set<SlotNumber>();
  for (const atom of atoms) slotsRead(atom.k === 'bound' ? atom.distance : atom.value, slots);
  const events = pattern.k === 'sequence' ? pattern.events : pattern.k === 'when' ? [pattern.event] : [];
  for (const event of events) if (event.k === 'changes') slots.add(event.slot);
  return [...new Set([...slots].map(slotBehind))];
}
