import { type Instance, instantiate, type NetworkExpansion, parameterValues } from '@/core/behaviour';
import type { LoopDocument } from '@/core/documents';
import type { Faults } from '@/core/fault';
import { readTime } from '@/core/formula';
import { nameKey, nearestName } from '@/core/language';
import type { RawUse } from '@/core/shapes';
import type { Assembling } from './assembling';

/** Makes the instances of a loop's components, and expands those that are networks. */
export function makeInstances({ project, loop, builder, instances, catalogue, faults }: Assembling, networks: NetworkExpansion): void {
  const { raw, document } = loop;
  for (const [name, use] of Object.entries(raw.components)) {
    const component = project.components.get(nameKey(use.use));
    if (!component) {
      const unusable = project.unusable.get(nameKey(use.use));
      catalogue.unreadable.set(nameKey(name), unusable);
      if (unusable) continue;
      const near = nearestName(
        use.use,
        [...project.components.values()].map((one) => one.raw.component),
      );
      faults.add(
        'unknown-name',
        document.place(['components', name, 'use']),
        `There is no component "${use.use}".`,
        near ? `Did you mean "${near}"?` : 'Add it under components/.',
      );
      continue;
    }
    if (instances.has(nameKey(name))) {
      faults.add(
        'duplicate-name',
        document.keyPlace(['components', name]),
        `The name "${name}" is used twice (case does not count).`,
        'Rename one of the two.',
      );
    }
    const values = parameterValues(name, component, use.parameters ?? {}, document, ['components', name, 'parameters'], faults);
    const instance = instantiate(name, component, values, builder, faults, timesOf(name, use, loop, faults));
    instances.set(nameKey(name), instance);
    const { behaviour } = component.raw;
    if (behaviour.kind === 'network') networks.expand(instance, behaviour);
  }
}

/** Period and offset that the loop gives a component. */
function timesOf(name: string, use: RawUse, loop: LoopDocument, faults: Faults): Instance['use'] {
  const read = (key: 'period' | 'offset', least: number): number | undefined => {
    const value = use[key];
    return value === undefined ? undefined : readTime(value, loop.document.place(['components', name, key]), faults, least);
  };
  const [periodNs, offsetNs] = [read('period', 1), read('offset', 0)];
  return { ...(periodNs === undefined ? {} : { periodNs }), ...(offsetNs === undefined ? {} : { offsetNs }) };
}
