import type { OutputPort } from '@/core/behaviour';
import { enumerated, type PlanBuilder } from '@/core/formula';
import { holds } from '@/core/plan';
import type { Assembling } from '../assembling';
import type { Source } from '../wiring';
import type { Catalogue } from './catalogue';

/** Notes everything in a loop that can be named from outside. @param free the loop's own inputs */
export function fillCatalogue({ builder, instances, catalogue, faulty }: Assembling, free: Iterable<Source>): void {
  for (const input of free) catalogue.add({ ...input, role: 'input', about: '' });
  for (const instance of instances.values()) {
    const { raw } = instance.component;
    const about = (group: 'outputs' | 'parameters', port: OutputPort): string => raw[group]?.[port.name.slice(instance.name.length + 1)]?.about ?? '';
    for (const output of instance.outputs.values()) catalogue.add({ ...output, role: 'output', about: about('outputs', output) });
    for (const parameter of instance.parameters.values()) {
      // One that is bound to a parameter of the network around it has the value of that, and a second name for it.
      if (builder.slots[parameter.slot]?.name !== parameter.name) {
        catalogue.alias(parameter.name, parameter);
        continue;
      }
      const tuning = raw.parameters?.[parameter.name.slice(instance.name.length + 1)]?.tuning;
      catalogue.add({ ...parameter, role: 'parameter', about: about('parameters', parameter), ...(tuning ? { tuning } : {}) });
    }
    for (const input of instance.inputs.values()) {
      if (input.source?.node.k !== 'slot') continue;
      const { slot, type } = input.source.node;
      const source = faulty?.sourceOf(slot);
      const kind = { type, unit: input.unit, ...enumerated(input) };
      catalogue.alias(input.name, { slot: source ?? slot, ...kind });
      if (source !== undefined) catalogue.receive(input.name, { slot, ...kind });
    }
  }
  addUnnamed(catalogue, builder);
  addMessagesAndStates(catalogue, builder);
}

/** States and variables that are on no face. */
function addUnnamed(catalogue: Catalogue, builder: PlanBuilder): void {
  const listed = new Set(catalogue.entries.map((entry) => entry.slot));
  const regions = new Set(builder.parts.regions.map((region) => region.slot));
  for (const [slots, role] of [
    [builder.parts.states.map((state) => state.slot), 'state'],
    [builder.parts.tasks.flatMap((task) => task.logged), 'variable'],
  ] as const) {
    for (const slot of slots) {
      const info = builder.slots[slot];
      if (info && !listed.has(slot) && !regions.has(slot)) catalogue.add({ ...info, slot, role, about: '' });
    }
  }
}

function addMessagesAndStates(catalogue: Catalogue, builder: PlanBuilder): void {
  for (const message of builder.parts.messages) catalogue.addMessage(message.name, message.mark);
  for (const region of builder.parts.regions) {
    catalogue.add({ name: region.name, slot: region.slot, type: 'INT', unit: '', role: 'region', about: '' });
    region.states.forEach((state, index) => {
      catalogue.addState(`${region.name}.${state.name}`, holds(region.slot, index + 1), state.mark);
    });
  }
}
