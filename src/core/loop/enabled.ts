import { slotNode } from '@/core/behaviour';
import { nameKey } from '@/core/language';
import { type Task, when } from '@/core/plan';
import type { Assembling } from './assembling';
import type { Wiring } from './wiring';

/** Work of a component that is not enabled is left out; what it gave out stays. */
export function holdDisabled({ builder, loop, faults }: Assembling, wiring: Wiring): void {
  for (const [name, { enabled }] of Object.entries(loop.raw.components)) {
    if (enabled === undefined) continue;
    const place = loop.document.place(['components', name, 'enabled']);
    const source = wiring.source(enabled, place);
    if (source && source.type !== 'BOOL')
      faults.add('type', place, `${source.name} is ${source.type}; "enabled" needs a BOOL.`, 'Name a signal that is TRUE or FALSE.');
    const own = (task: Task): boolean => nameKey(task.component) === nameKey(name) || nameKey(task.component).startsWith(`${nameKey(name)}.`);
    if (!builder.parts.tasks.some(own))
      faults.add('type', place, `${name} is not sampled; only sampled components can be held.`, 'Remove "enabled", or give the component a period.');
    const unit = builder.units.find((one) => own({ ...one, work: [], logged: [] }));
    if (unit)
      faults.add(
        'type',
        place,
        `${unit.component} is a co-simulation unit, whose time always goes on.`,
        'Remove "enabled"; give the unit an input for it, if it has one.',
      );
    if (!source) continue;
    builder.parts.tasks = builder.parts.tasks.map((task) => (own(task) ? { ...task, work: [when(slotNode(source), task.work)] } : task));
  }
}
