import { nameKey } from '@/core/language';
import type { FaceInfo } from '@/core/plan';
import type { Assembling } from './assembling';

/** What each component of a loop has to do with the others. To be called once all inputs have their sources. */
export function facesOf({ instances, loop, builder }: Assembling): FaceInfo[] {
  return Object.keys(loop.raw.components).flatMap((name): FaceInfo[] => {
    const instance = instances.get(nameKey(name));
    if (!instance) return [];
    const portOf = (full: string): string => full.slice(instance.name.length + 1);
    const inputs = [...instance.inputs.values()].flatMap(({ name: full, source }) => (source ? [{ name: portOf(full), value: source.node }] : []));
    const outputs = [...instance.outputs.values()].map(({ name: full, slot }) => ({ name: portOf(full), slot }));
    const sends = Object.keys(instance.component.raw.messages?.out ?? {}).map((message) => ({
      name: message,
      to: (instance.receivers.get(nameKey(message)) ?? []).map((one) => builder.parts.messages.indexOf(one)),
    }));
    return [{ component: instance.name, inputs, outputs, sends, isHeld: loop.raw.components[name]?.enabled !== undefined }];
  });
}
