import type { SlotNumber } from '../plan';
import type { Column, Trace } from '../trace';
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

const known = new WeakMap<Signals, Signals>();

/** The signals of a run and, made when they are first asked for, their rates. */
export function withRates(signals: Signals): Signals {
  const found = known.get(signals);
  if (found) return found;
  const rates = new Map<SlotNumber, Column | undefined>();
  const all: Signals = {
    trace: signals.trace,
    column: (slot) => {
      if (!isRate(slot)) return signals.column(slot);
      if (!rates.has(slot)) rates.set(slot, rateColumn(signals.column(slotBehind(slot)), signals.trace));
      return rates.get(slot);
    },
    // What does not change has no rate.
    constant: (slot) => (isRate(slot) ? 0 : signals.constant(slot)),
  };
  known.set(signals, all);
  return all;
}

/**
 * A difference of two rounded numbers over one of two rounded times, to the decimals that it is known to: a level that rises by exactly 1 mm/s does not break a limit of 1 mm/s by the last bit of a subtraction.
 * @param size by which one rounding counts
 */
function rounded(rate: number, size: number): number {
  // Each of the four numbers is off by half a bit, and the last state of a solver by some more.
  const scale = 10 ** Math.floor(-Math.log10(4 * Number.EPSILON * size));
  const whole = rate * scale;
  return Math.abs(whole) < Number.MAX_SAFE_INTEGER && Number.isFinite(scale) ? Math.round(whole) / scale : rate;
}

function rateColumn(column: Column | undefined, trace: Trace): Column | undefined {
  const time = column && trace.bases[column.base];
  if (!column || !time) return undefined;
  const { data } = column;
  const slope = (row: number): number => {
    const [t, u, y, z] = [time[row] as number, time[row + 1] as number, data[row] as number, data[row + 1] as number];
    if (u <= t) return z === y ? 0 : (z - y) / 0;
    const rate = (z - y) / (u - t);
    return rounded(rate, (Math.abs(rate) * (t + u) + Math.abs(y) + Math.abs(z)) / (u - t));
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
