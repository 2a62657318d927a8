import type { PlannedBuild } from '@/core/build';
import { nameKey } from '@/core/language';
import { hostedPlaces, type Slot } from '@/core/plan';
import { type Channel, isMeasured } from './channel';

/** A channel of a controller, with the slot of its build that it is. */
export interface Pin extends Channel {
  readonly slot: number;
}

/** What a controller has to know of a build to run it. Slots are those of the build. */
export interface PackageHeader {
  readonly fingerprint: string;
  /** When the build was made, as in ISO 8601. */
  readonly made: string;
  /** Kind of machine that the library is for. */
  readonly machine: string;
  readonly tasks: readonly {
    readonly periodNs: number;
    readonly offsetNs: number;
    readonly takes: readonly number[];
    readonly gives: readonly number[];
  }[];
  /** Slots that get values at the begin, and these. */
  readonly begun: readonly number[];
  readonly starts: readonly number[];
  readonly inputs: readonly Pin[];
  readonly outputs: readonly Pin[];
  readonly parameters: readonly {
    readonly name: string;
    readonly slot: number;
    readonly start: number;
    readonly min?: number;
    readonly max?: number;
  }[];
  /** Values that a task exchanges at most. */
  readonly room: number;
}

/** Channels of each direction, and parameters, that there is room for in the registers. */
const mostChannels = 1000;
const mostParameters = 250;

/** How a channel is wanted, where not as the face of the build declares it. */
export type ChannelWish = Partial<Pick<Channel, 'low' | 'high' | 'bits' | 'filterMs' | 'counts'>>;

/**
 * What a controller has to know to run a build.
 * @param machine kind of machine that its library was compiled for
 * @param wished of single channels, by the key of the name: of the input, or `component.output`
 * @throws Error in words where a build cannot run on a bench
 */
export function headerOf(planned: PlannedBuild, made: string, machine: string, wished: ReadonlyMap<string, ChannelWish>): PackageHeader {
  const { plan } = planned;
  const { inputs, outputs } = pinsOf(planned, wished);
  const [because] = [...refusals(planned), ...[...inputs, ...outputs].flatMap(pinRefusal)];
  if (because) throw new Error(because);
  return {
    fingerprint: planned.fingerprint,
    made,
    machine,
    tasks: plan.tasks.map(({ periodNs, offsetNs }, index) => {
      const { takes, gives } = planned.tasks[index] as PlannedBuild['tasks'][number];
      return { periodNs, offsetNs, takes, gives };
    }),
    begun: planned.begun,
    starts: planned.begun.map((slot) => plan.slots[slot]?.start ?? 0),
    inputs,
    outputs,
    parameters: plan.parameters.map((slot) => {
      const { name, start, min, max } = plan.slots[slot] as Slot;
      return { name, slot, start, ...(min === undefined ? {} : { min }), ...(max === undefined ? {} : { max }) };
    }),
    room: Math.max(0, ...planned.tasks.map(({ takes, gives }) => hostedPlaces.takes + takes.length + gives.length)),
  };
}

/** The channels of a build, in the order of their registers. */
export function pinsOf(planned: PlannedBuild, wished: ReadonlyMap<string, ChannelWish>): { readonly inputs: Pin[]; readonly outputs: Pin[] } {
  const { plan } = planned;
  const pin = (name: string, slot: number): Pin => {
    const { type, unit, min, max } = plan.slots[slot] as Slot;
    const own = wished.get(nameKey(name));
    const [low, high] = [own?.low ?? min ?? 0, own?.high ?? max ?? 0];
    return { name, type, unit, low, high, bits: own?.bits ?? 16, filterMs: own?.filterMs ?? 0, ...(own?.counts ? { counts: own.counts } : {}), slot };
  };
  const own = new Set(planned.components.map(nameKey));
  const faces = plan.faces.filter(({ component }) => own.has(nameKey(component)));
  return {
    inputs: plan.inputs.map(({ name, slot }) => pin(name, slot)),
    outputs: faces.flatMap(({ component, outputs }) => outputs.map(({ name, slot }) => pin(`${component}.${name}`, slot))),
  };
}

/** Why a build cannot run on a bench, whatever its channels are. */
export function refusals({ plan, components }: PlannedBuild): string[] {
  const outputs = plan.faces.filter(({ component }) => components.some((one) => nameKey(one) === nameKey(component)));
  const count = outputs.reduce((sum, one) => sum + one.outputs.length, 0);
  return [
    ...(plan.messages.length > 0 ? ['messages do not go over the bus; this build takes or sends some'] : []),
    ...(Math.max(plan.inputs.length, count) > mostChannels ? [`a controller has at most ${mostChannels} channels of each direction`] : []),
    ...(plan.parameters.length > mostParameters ? [`a controller has at most ${mostParameters} parameters`] : []),
  ];
}

/** Why a channel cannot go over the bus as it is. */
export function pinRefusal(pin: Pin): string[] {
  const { name, type, low, high } = pin;
  if (isMeasured(pin)) return high > low ? [] : [`${name} has no range; declare min and max on the face, or give the channel low and high`];
  if (type !== 'DINT' && type !== 'UDINT') return [];
  const [least, most] = type === 'DINT' ? [-32_768, 32_767] : [0, 65_535];
  const fits = high > low && low >= least && high <= most;
  return fits ? [] : [`${name} is ${type}, and a register has 16 bits; declare min and max between ${least} and ${most}`];
}
