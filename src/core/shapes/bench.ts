import { byKey, object, oneOf, pairOf, required, type Shape } from './shape';
import { atLeastOne, byText, duration, type Named, numeric, onlyTrue, positive, type Scalar, scalar, text, title, whole } from './values';

/** How a value of the controller goes over the field bus. What is left out is as the face declares it. */
export interface RawChannel {
  /** The signal of the loop that is wired to it; checked, where it is given. */
  readonly signal?: string;
  /** Its register; by its place in the build unless said. */
  readonly register?: number;
  /** Ends of its range, in the unit of the signal. */
  readonly low?: number;
  readonly high?: number;
  readonly bits?: 12 | 16;
  /** Counts at these ends: 0 and the last one unless said. */
  readonly counts?: readonly [number, number];
  /** Time constant of the filter of an input. */
  readonly filter?: string | number;
}

/** benches/*.yaml: which controller runs a loop in real time, and how it is wired. */
export interface RawBench {
  readonly bench: string;
  readonly about?: string;
  readonly loop: string;
  /** `stand-in`, or the address of a controller. */
  readonly controller?: string;
  /** Whether the controller takes the build, or has a program of its own. */
  readonly program?: 'build' | 'own';
  /** How many times faster than the wall's the clock goes, of a stand-in alone. */
  readonly speed?: number;
  /** How often values are exchanged. */
  readonly cycle: string | number;
  /** How late a cycle may begin by the clock on the wall before the run has missed its time; one cycle unless said. */
  readonly lateness?: string | number;
  /** How often a run is made at most, until one has kept its time; once unless said. */
  readonly attempts?: number;
  /** After so long without inputs the controller goes to its safe state. */
  readonly watchdog?: string | number;
  readonly inputs: Named<RawChannel>;
  readonly outputs: Named<RawChannel>;
}

const channel: Shape<RawChannel> = object<RawChannel>({
  signal: text,
  register: whole(0, 65_535),
  low: numeric,
  high: numeric,
  bits: oneOf(12, 16),
  counts: pairOf(whole(0, 65_535)),
  filter: duration,
});

export const benchShape = object<RawBench>({
  bench: required(title(100)),
  about: text,
  loop: required(text),
  controller: text,
  program: oneOf('build', 'own'),
  speed: positive(1000),
  cycle: required(duration),
  lateness: duration,
  attempts: whole(1, 20),
  watchdog: duration,
  inputs: required(byText(channel)),
  outputs: required(byText(channel, atLeastOne)),
});

/** A fault that a case or a person puts on a channel of a bench, by the key that tells which one it is. */
interface ChannelFaults {
  readonly stuck: OnChannel & { readonly stuck: Scalar };
  readonly offset: OnChannel & { readonly offset: number };
  readonly gain: OnChannel & { readonly gain: number };
  /** Standard deviation. */
  readonly noise: OnChannel & { readonly noise: number };
  /** Added for one cycle. */
  readonly spike: OnChannel & { readonly spike: number };
  /** No more counts: 0 comes through. */
  readonly dropped: OnChannel & { readonly dropped: boolean };
  /** As from a broken wire: the count is 0, or the last one where 0 is in the range. */
  readonly broken: OnChannel & { readonly broken: boolean };
  /** In cycles of the bench. */
  readonly late: OnChannel & { readonly late: number };
  /** The other channel it has changed places with. */
  readonly swapped: OnChannel & { readonly swapped: string };
  readonly over: OnChannel & { readonly over: boolean };
  readonly bus: { readonly bus: BusState };
}
interface OnChannel {
  readonly channel: string;
}
export type RawChannelFault = ChannelFaults[keyof ChannelFaults];

/** What may be the matter with the field bus, or with the controller's power. */
export const busStates = ['sound', 'frozen', 'lost', 'power cycle'] as const;
export type BusState = (typeof busStates)[number];

/** Cycles that a channel can be late by. */
export const mostLate = 1000;

const onChannel = { channel: required(text) };
export const channelFaultShape = byKey<ChannelFaults>(
  {
    stuck: object<ChannelFaults['stuck']>({ ...onChannel, stuck: required(scalar) }),
    offset: object<ChannelFaults['offset']>({ ...onChannel, offset: required(numeric) }),
    gain: object<ChannelFaults['gain']>({ ...onChannel, gain: required(numeric) }),
    noise: object<ChannelFaults['noise']>({ ...onChannel, noise: required(positive()) }),
    spike: object<ChannelFaults['spike']>({ ...onChannel, spike: required(numeric) }),
    dropped: object<ChannelFaults['dropped']>({ ...onChannel, dropped: required(onlyTrue) }),
    broken: object<ChannelFaults['broken']>({ ...onChannel, broken: required(onlyTrue) }),
    late: object<ChannelFaults['late']>({ ...onChannel, late: required(whole(1, mostLate)) }),
    swapped: object<ChannelFaults['swapped']>({ ...onChannel, swapped: required(text) }),
    over: object<ChannelFaults['over']>({ ...onChannel, over: required(onlyTrue) }),
    bus: object<ChannelFaults['bus']>({ bus: required(oneOf(...busStates)) }),
  },
  `must say bus: ${busStates.join(', ')}, or channel: and one of stuck:, offset:, gain:, noise:, spike:, dropped: true, broken: true, late: in cycles, swapped: with another channel, over: true`,
);
