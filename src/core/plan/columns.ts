import type { Plan, SlotNumber } from './types';

/**
 * For each continuous slot that is logged, the one whose column of the trace it shows: itself, or the one it only passes on (an output that is a state, a port wired to another).
 * Numbers that are the same at every instant are written once.
 */
export function columnOwners({ assignments, logged }: Pick<Plan, 'assignments' | 'logged'>): ReadonlyMap<SlotNumber, SlotNumber> {
  const passedOn = new Map(assignments.flatMap(({ slot, value }) => (value.k === 'slot' ? [[slot, value.slot] as const] : [])));
  const isLogged = new Set(logged);
  const ownerOf = (slot: SlotNumber): SlotNumber => {
    let owner = slot;
    for (let at: SlotNumber | undefined = slot; at !== undefined; at = passedOn.get(at)) if (isLogged.has(at)) owner = at;
    return owner;
  };
  return new Map(logged.map((slot) => [slot, ownerOf(slot)]));
}

/** The slots among them that have a column of their own. */
export function ownColumns(plan: Pick<Plan, 'assignments' | 'logged'>): readonly SlotNumber[] {
  return [...new Set(columnOwners(plan).values())];
}
