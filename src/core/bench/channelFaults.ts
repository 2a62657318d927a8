import { numberOfValue } from '@/core/formula';
import { nameKey, readDuration } from '@/core/language';
import { numeric, Stream, seedOfStream } from '@/core/numeric';
import { type BusState, busStates, mostLate, type RawChannelFault, type Scalar } from '@/core/shapes';
import { brokenCount, type Channel, countOf, fromCount } from './channel';

/** What may be the matter with a channel, as numbers that a run can hold; 0 is nothing. */
export const channelFaultKinds = {
  sound: 0,
  stuck: 1,
  offset: 2,
  gain: 3,
  noise: 4,
  spike: 5,
  dropped: 6,
  broken: 7,
  late: 8,
  swapped: 9,
} as const;

/** A fault as a run holds it. */
export interface HeldFault {
  readonly kind: number;
  /** A value, a factor, a number of cycles, or the number of another channel. */
  readonly amount: number;
}

export function busKind(state: BusState): number {
  return busStates.indexOf(state);
}

/**
 * A fault of a channel in numbers.
 * @param channels of its direction
 * @throws Error in words where it is none that this channel can have
 */
export function heldFault(fault: Exclude<RawChannelFault, { bus: unknown }>, channel: Channel, channels: readonly Channel[]): HeldFault {
  const held = (kind: keyof typeof channelFaultKinds, amount = 0): HeldFault => ({ kind: channelFaultKinds[kind], amount });
  if ('stuck' in fault) return held('stuck', stuckAt(fault.stuck, channel));
  if ('dropped' in fault) return held('dropped');
  if ('broken' in fault) return held('broken');
  if ('over' in fault) return held('sound');
  if ('late' in fault) return held('late', fault.late);
  if ('swapped' in fault) {
    const other = channels.findIndex((one) => nameKey(one.name) === nameKey(fault.swapped));
    if (other < 0) throw new Error(`there is no channel "${fault.swapped}" in the same direction as ${channel.name}`);
    return held('swapped', other);
  }
  if (channel.type === 'BOOL') throw new Error(`${channel.name} is BOOL; it can be stuck, dropped, broken, late or swapped`);
  if ('offset' in fault) return held('offset', fault.offset);
  if ('gain' in fault) return held('gain', fault.gain);
  return 'noise' in fault ? held('noise', fault.noise) : held('spike', fault.spike);
}

/** @throws Error in words for what is no value of the channel */
function stuckAt(value: Scalar, { name, type, enumeration }: Channel): number {
  if (typeof value !== 'string') return Number(value);
  const ns = type === 'TIME' ? readDuration(value) : undefined;
  if (typeof ns === 'number') return ns;
  if (!enumeration) throw new Error(`${JSON.stringify(value)} is no value of ${name}, which is ${type}`);
  const number = numberOfValue(value, enumeration);
  if (number === undefined) throw new Error(`${JSON.stringify(value)} is no value of ${name}; it has ${enumeration.values.join(', ')}`);
  return number;
}

/** One direction of a bench: values become counts, with what is the matter with each channel, cycle by cycle. */
export class Lane {
  private readonly noise: readonly Stream[];
  /** The last counts of each channel, in a ring; there only where one is late. */
  private readonly rings: (Uint16Array | undefined)[];
  private readonly spiked: boolean[];
  private cycle = 0;

  /** @param seed of the run, for noise; @param stream number of the first stream of this lane */
  constructor(
    readonly channels: readonly Channel[],
    seed: number,
    stream: number,
  ) {
    this.noise = channels.map((_, index) => new Stream(seedOfStream(seed, stream + index)));
    this.rings = channels.map(() => undefined);
    this.spiked = channels.map(() => false);
  }

  /**
   * @param counts that stand at the sound end, in the order of the channels
   * @param fault of each
   * @returns those at the other end
   */
  pass(counts: readonly number[], fault: (channel: number) => HeldFault): number[] {
    const passed = this.channels.map((channel, index) => this.one(channel, index, counts, fault(index)));
    this.keep(counts);
    this.cycle += 1;
    return passed;
  }

  private one(channel: Channel, index: number, counts: readonly number[], { kind, amount }: HeldFault): number {
    const own = counts[index] as number;
    const value = (): number => fromCount(channel, own);
    if (kind !== channelFaultKinds.spike) this.spiked[index] = false;
    switch (kind) {
      case channelFaultKinds.stuck:
        return countOf(channel, amount);
      case channelFaultKinds.offset:
        return countOf(channel, value() + amount);
      case channelFaultKinds.gain:
        return countOf(channel, value() * amount);
      case channelFaultKinds.noise:
        return countOf(channel, value() + amount * this.normal(index));
      case channelFaultKinds.spike: {
        const isOver = this.spiked[index];
        this.spiked[index] = true;
        return isOver ? own : countOf(channel, value() + amount);
      }
      case channelFaultKinds.dropped:
        return 0;
      case channelFaultKinds.broken:
        return brokenCount(channel);
      case channelFaultKinds.late:
        return this.before(index, amount, own);
      case channelFaultKinds.swapped: {
        const other = this.channels[amount];
        // The count goes over as it is; what it means is for the channel that gets it.
        return other ? (counts[amount] as number) : own;
      }
      default:
        return own;
    }
  }

  /** A standard normal number (Box and Muller 1958; from memory). */
  private normal(index: number): number {
    const stream = this.noise[index] as Stream;
    return Math.sqrt(-2 * numeric.ln(stream.next())) * numeric.cos(2 * Math.PI * stream.next());
  }

  /** What a channel had some cycles ago; before the first one, what it has. */
  private before(index: number, cycles: number, own: number): number {
    const back = Math.min(cycles, this.cycle, mostLate);
    if (back === 0) return own;
    return this.ring(index)[(this.cycle - back) % (mostLate + 1)] as number;
  }

  private ring(index: number): Uint16Array {
    const ring = this.rings[index] ?? new Uint16Array(mostLate + 1);
    this.rings[index] = ring;
    return ring;
  }

  private keep(counts: readonly number[]): void {
    for (const [index, count] of counts.entries()) this.ring(index)[this.cycle % (mostLate + 1)] = count;
  }
}
