import type { BenchChannel } from '@/core/simulate';

/** How a value stands in a register: counts between two values for a number that is measured, itself for TRUE and whole numbers. */
export type Channel = Omit<BenchChannel, 'register'>;

export function isMeasured({ type }: Pick<Channel, 'type'>): boolean {
  return type === 'REAL' || type === 'LREAL' || type === 'TIME';
}

function lastCount({ bits }: Channel): number {
  return 2 ** bits - 1;
}

function ends(channel: Channel): readonly [number, number] {
  return channel.counts ?? [0, lastCount(channel)];
}

/** The register of a value: the nearest count, the first or the last there is where it lies beyond. */
export function countOf(channel: Channel, value: number): number {
  if (channel.type === 'BOOL') return value === 0 ? 0 : 1;
  if (!isMeasured(channel)) return value & 0xffff;
  const [least, most] = ends(channel);
  const count = Math.round(least + ((value - channel.low) / (channel.high - channel.low)) * (most - least));
  return Number.isNaN(count) ? 0 : Math.min(lastCount(channel), Math.max(0, count));
}

/** The value of a register. */
export function fromCount(channel: Channel, count: number): number {
  if (channel.type === 'BOOL') return count === 0 ? 0 : 1;
  if (!isMeasured(channel)) return channel.type === 'USINT' || channel.type === 'UINT' || channel.type === 'UDINT' ? count : (count << 16) >> 16;
  const [least, most] = ends(channel);
  const { low, high } = channel;
  if (count === most) return high;
  // What is off is 0, and not nearly so.
  if (count === least + ((most - least) * -low) / (high - low)) return 0;
  return low + ((count - least) / (most - least)) * (high - low);
}

/** The count that comes from a broken wire: 0, and where that is a value of the range, the one beyond its other end or that end. */
export function brokenCount(channel: Channel): number {
  if (!isMeasured(channel)) return 0;
  const [least, most] = ends(channel);
  return Math.min(least, most) > 0 ? 0 : lastCount(channel);
}

/** How far a value may be from the one its register gives back, inside the range. */
export function resolution(channel: Channel): number {
  if (!isMeasured(channel)) return 0;
  const [least, most] = ends(channel);
  return Math.abs((channel.high - channel.low) / (most - least)) / 2;
}
