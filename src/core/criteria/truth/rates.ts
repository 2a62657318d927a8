import type { SlotNumber } from '@/core/plan';
import type { Column, Trace } from '@/core/trace';
import type { Signals } from './scan';

/**
 * `rate of y` stands in conditions as a slot of its own, which no plan has: −1 − slot. A continuous signal has the slope of its straight pieces (a jump counts as a rate without
 * bound up to the next row), a sampled one the difference to its last value per second, 0 before there are two.
 */
export function rateSlot(slot: SlotNumber): SlotNumber {
  return -1 - slot;
}

/** The signal whose rate it is; any other slot stays. */
export function slotBehind(slot: SlotNumber): SlotNumber {
  return isRate(slot) ? -1 - slot : slot;
}

export function isRate(slot: SlotNumber): boolean {
  return slot < 0;
}

const known = new WeakMap<Signals, Map<string, Signals>>();

/**
 * The signals of a run and, made when they are first asked for, their rates.
 * @param limits numbers that the rates are compared with; a rate that is one of them as far as its rounding tells is exactly that: a level that rises by 1 mm/s does not break a limit of 1 mm/s by the last
 * bit of a subtraction
 */
export function withRates(signals: Signals, limits: readonly number[]): Signals {
  const key = limits.join();
  const ofRun = known.get(signals) ?? new Map<string, Signals>();
  known.set(signals, ofRun);
  const found = ofRun.get(key);
  if (found) return found;
  const rates = new Map<SlotNumber, Column | undefined>();
  const all: Signals = {
    trace: signals.trace,
    column: (slot) => {
      if (!isRate(slot)) return signals.column(slot);
      if (!rates.has(slot)) rates.set(slot, rateColumn(signals.column(slotBehind(slot)), signals.trace, limits));
      return rates.get(slot);
    },
    // What does not change has no rate.
    constant: (slot) => (isRate(slot) ? 0 : signals.constant(slot)),
  };
  ofRun.set(key, all);
  return all;
}

function rateColumn(column: Column | undefined, trace: Trace, limits: readonly number[]): Column | undefined {
  const time = column && trace.bases[column.base];
  if (!column || !time) return undefined;
  const { data } = column;
  const slope = (row: number): number => {
    const [t, u, y, z] = [time[row] as number, time[row + 1] as number, data[row] as number, data[row + 1] as number];
    if (u <= t) return z === y ? 0 : (z - y) / 0;
    const rate = (z - y) / (u - t);
    // Each of the four numbers is off by half a bit, and the last state of a solver by some more.
    const resolution = (4 * Number.EPSILON * (Math.abs(rate) * (t + u) + Math.abs(y) + Math.abs(z))) / (u - t);
    return limits.find((limit) => Math.abs(limit - rate) <= resolution) ?? rate;
  };
  const rate = new Float64Array(data.length);
  const last = data.length - 1;
  if (column.between === 'held') for (let row = 1; row <= last; row += 1) rate[row] = slope(row - 1);
  else
    for (let row = 0; row <= last; row += 1) {
      const jumps = row > 0 && time[row] === time[row - 1] && data[row] !== data[row - 1];
      rate[row] = jumps ? slope(row - 1) : row < last ? slope(row) : (rate[row - 1] ?? 0);
    }
  const { min, max, labels, ...rest } = column;
  return { ...rest, slot: rateSlot(column.slot), between: 'held', type: 'LREAL', data: rate };
}
