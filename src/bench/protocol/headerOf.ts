import type { PlannedBuild } from '@/core/build';
import { nameKey } from '@/core/language';
import { hostedPlaces, type Slot } from '@/core/plan';
import { type Channel, isMeasured } from './channel';
import type { PackageHeader } from './package';
import { mostChannels, mostParameters } from './registers';

/** How a signal is wired: what a bench says of its channel. */
export type ChannelWish = Partial<Pick<Channel, 'low' | 'high' | 'bits' | 'filterMs'>>;

/**
 * What a controller has to know to run a build.
 * @param wished of single channels, by the name of the input, or `component.output`; a range that is not given is the declared one
 * @throws Error in words where a build cannot run on a bench
 */
export function headerOf(planned: PlannedBuild, made: string, wished: ReadonlyMap<string, ChannelWish>): PackageHeader {
  const { plan } = planned;
  if (plan.messages.length > 0) throw new Error('messages do not go over the bus yet; this build takes or sends some');
  const channel = (name: string, slot: number): Channel & { readonly slot: number } => {
    const { type, unit, min, max } = plan.slots[slot] as Slot;
    const own = wished.get(nameKey(name));
    const [low, high] = [own?.low ?? min, own?.high ?? max];
    if (isMeasured({ type }) && !(low !== undefined && high !== undefined && high > low))
      throw new Error(`${name} has no range; declare min and max on the face, or give the channel one`);
    return { name, type, unit, low: low ?? 0, high: high ?? 0, bits: own?.bits ?? 16, filterMs: own?.filterMs ?? 0, slot };
  };
  const own = new Set(planned.components.map(nameKey));
  const faces = plan.faces.filter(({ component }) => own.has(nameKey(component)));
  const header: PackageHeader = {
    fingerprint: planned.fingerprint,
    made,
    machine: `${process.platform} ${process.arch}`,
    tasks: plan.tasks.map(({ periodNs, offsetNs }, index) => {
      const { takes, gives } = planned.tasks[index] as PlannedBuild['tasks'][number];
      return { periodNs, offsetNs, takes, gives };
    }),
    begun: planned.begun,
    starts: planned.begun.map((slot) => plan.slots[slot]?.start ?? 0),
    inputs: plan.inputs.map(({ name, slot }) => channel(name, slot)),
    outputs: faces.flatMap(({ component, outputs }) => outputs.map(({ name, slot }) => channel(`${component}.${name}`, slot))),
    parameters: plan.parameters.map((slot) => {
      const { name, start, min, max } = plan.slots[slot] as Slot;
      return { name, slot, start, ...(min === undefined ? {} : { min }), ...(max === undefined ? {} : { max }) };
    }),
    room: Math.max(0, ...planned.tasks.map(({ takes, gives }) => hostedPlaces.takes + takes.length + gives.length)),
  };
  if (header.inputs.length > mostChannels || header.outputs.length > mostChannels)
    throw new Error(`a controller has at most ${mostChannels} channels of each direction`);
  if (header.parameters.length > mostParameters) throw new Error(`a controller has at most ${mostParameters} parameters`);
  return header;
}
