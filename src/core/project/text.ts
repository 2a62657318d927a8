import type { ComponentDocument, Project } from '@/core/documents';
import { emitStructuredText } from '@/core/emit/st';
import { Faults, printFault } from '@/core/fault';
import { aloneLoop, assembleLoop } from '@/core/loop';
import type { RawPort } from '@/core/shapes';

/**
 * A sampled component as a FUNCTION_BLOCK.
 * @throws Error with the faults of the component, or naming what has no counterpart
 */
export function componentAsStructuredText(project: Project, component: ComponentDocument): string {
  const faults = new Faults();
  const { plan, catalogue } = assembleLoop(project, aloneLoop(component), faults);
  if (faults.count > 0) throw new Error(faults.all().map(printFault).join('\n'));
  const { component: name, inputs, outputs, parameters } = component.raw;
  const ports = (group: Readonly<Record<string, RawPort>> | undefined): Parameters<typeof emitStructuredText>[1]['inputs'] =>
    Object.entries(group ?? {}).flatMap(([port, { unit = '', min, max, about, tuning }]) => {
      const found = catalogue.find([name, port]);
      const slot = typeof found === 'object' && found.node.k === 'slot' ? found.node.slot : undefined;
      const more = {
        ...(min === undefined ? {} : { min }),
        ...(max === undefined ? {} : { max }),
        ...(about ? { about } : {}),
        ...(tuning === undefined ? {} : { tuning }),
      };
      return slot === undefined ? [] : [{ name: port, slot, unit, ...more }];
    });
  return emitStructuredText(plan, { name, inputs: ports(inputs), outputs: ports(outputs), parameters: ports(parameters) });
}
