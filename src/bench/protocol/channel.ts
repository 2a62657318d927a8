import type { ValueType } from '@/core/plan';

/** How a value stands in a register: counts between two values for a number that is measured, itself for TRUE and whole numbers. */
export interface Channel {
  readonly name: string;
  readonly type: ValueType;
  readonly unit: string;
  /** Of a measured number: the values of the least and the greatest count, and how many bits there are. */
  readonly low: number;
  readonly high: number;
  readonly bits: 12 | 16;
  /** Time constant of the filter of an input (ms); 0 for none. */
  readonly filterMs: number;
}

export function isMeasured({ type }: Pick<Channel, 'type'>): boolean {
  return type === 'REAL' || type === 'LREAL' || type === 'TIME';
}

/** The register of a value: the nearest count, the first or the last where it lies outside. */
export function countOf(channel: Channel, value: number): number {
  if (channel.type === 'BOOL') return value === 0 ? 0 : 1;
  if (!isMeasured(channel)) return value & 0xffff;
  const last = 2 ** channel.bits - 1;
  const count = Math.round(((value - channel.low) / (channel.high - channel.low)) * last);
  return Number.isNaN(count) ? 0 : Math.min(last, Math.max(0, count));
}

/** The value of a register. */
export function fromCount(channel: Channel, count: number): number {
  if (channel.type === 'BOOL') return count === 0 ? 0 : 1;
  if (!isMeasured(channel)) return channel.type === 'USINT' || channel.type === 'UINT' || channel.type === 'UDINT' ? count : (count << 16) >> 16;
  return channel.low + (count / (2 ** channel.bits - 1)) * (channel.high - channel.low);
}

/** How far a value may be from the one its register gives back, inside the range. */
export function resolution(channel: Channel): number {
  return isMeasured(channel) ? (channel.high - channel.low) / (2 ** channel.bits - 1) / 2 : 0;
}
