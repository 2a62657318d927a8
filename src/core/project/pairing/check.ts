import type { Project } from '@/core/documents';
import type { Faults } from '@/core/fault';
import { nameKey } from '@/core/language';
import type { AssembledLoop } from '@/core/loop';
import { plannedBuild } from '../code/controller';

/** Checks that what runs in the loop of a pairing is the very build of the controller's own loop. */
export function checkPairings(project: Project, loops: ReadonlyMap<string, AssembledLoop>, faults: Faults): void {
  if (faults.count > 0) return;
  for (const [key, { raw, document }] of project.pairings) {
    const [own, paired] = [plannedBuild({ project, loops }, nameKey(raw.controller)), plannedBuild({ project, loops }, key)];
    if ('because' in own || 'because' in paired || own.model === paired.model) continue;
    const parted = own.plan.slots.find(({ name, start }, slot) => paired.plan.slots[slot]?.name !== name || paired.plan.slots[slot]?.start !== start);
    const why =
      own.components.join() !== paired.components.join()
        ? `there it is ${own.components.join(', ')}`
        : `they part in ${parted?.name ?? 'the messages they send'}`;
    faults.warn(
      'type',
      document.place(['controller']),
      `The controller here is another build than in ${raw.controller}: ${why}.`,
      'Let no parameter set of the host change it, and pair the messages that it sends.',
    );
  }
}
