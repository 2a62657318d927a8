import type { LoopDocument, ParameterSetDocument, Project } from '@/core/documents';
import type { Faults } from '@/core/fault';
import { type PlanBuilder, readValue } from '@/core/formula';
import { nameKey, nearestName } from '@/core/language';
import type { SlotNumber } from '@/core/plan';

/** Gives parameters the values of the sets a loop names. They count over what the loop gives its components, later ones over earlier ones; what a case sets counts over all. */
export function applyLoopSets({ raw, document, paired }: LoopDocument, { parameterSets }: Project, builder: PlanBuilder, faults: Faults): void {
  (raw.parameter_sets ?? []).forEach((name, index) => {
    const set = parameterSets.get(nameKey(name));
    if (set) applySet(set, { loop: raw.loop, isWhole: !raw.loop.includes('/') && !paired }, builder, faults);
    else {
      const near = nearestName(
        name,
        [...parameterSets.values()].map((one) => one.raw.parameter_set),
      );
      faults.add(
        'unknown-name',
        document.place(['parameter_sets', index]),
        `There is no parameter set "${name}".`,
        near ? `Did you mean "${near}"?` : 'Add it under parameters/.',
      );
    }
  });
}

/** @param of the loop; one that is not whole has only a part of what the set was made for */
function applySet(
  { raw, document }: ParameterSetDocument,
  { loop, isWhole }: { readonly loop: string; readonly isWhole: boolean },
  builder: PlanBuilder,
  faults: Faults,
): void {
  const slots = new Map<string, SlotNumber>(builder.parts.parameters.map((slot) => [nameKey(builder.slots[slot]?.name ?? ''), slot]));
  for (const [name, value] of Object.entries(raw.values)) {
    const slot = slots.get(nameKey(name));
    const declared = slot === undefined ? undefined : builder.slots[slot];
    if (slot === undefined || !declared) {
      // What the loop itself has not is told there; another plant may do without what it has.
      if (!isWhole) continue;
      const near = nearestName(
        name,
        builder.parts.parameters.map((one) => builder.slots[one]?.name ?? ''),
      );
      faults.add(
        'unknown-name',
        document.keyPlace(['values', name]),
        `There is no parameter "${name}" in the loop ${loop}, which takes this set.`,
        near ? `Did you mean "${near}"?` : 'Give the full name, such as chamber.area.',
      );
      continue;
    }
    const start = readValue(value, declared, document.place(['values', name]), faults);
    if (start !== undefined) builder.slots[slot] = { ...declared, start };
  }
}
