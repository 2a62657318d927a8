import { evaluate, type Limited, type SlotNumber } from '@/core/plan';
import type { Trace } from '@/core/trace';
import { timeWords } from '@/core/wording';
import type { Clipped } from './types';

/**
 * How long outputs of a plant stood at the bound of a saturation because what is limited lay beyond it: so long it was believable only because it was clipped. What comes to the bound by itself is not clipped.
 * @param constant value of a slot that is the same all through the run, NaN for any other
 */
export function clippedOutputs(trace: Trace, limited: readonly Limited[], constant: (slot: SlotNumber) => number): Clipped[] {
  return limited.flatMap(({ slot, inside, low, high }) => {
    const column = trace.columns.find((one) => one.slot === slot);
    const times = column && trace.bases[column.base];
    if (!column || !times) return [];
    const read = reader(trace, constant);
    /** Where it cannot be known, as with what depends on the time itself, it is taken to be so. */
    const isBeyond = (row: number): boolean => {
      const value = evaluate(inside, (one) => read(one, times[row] as number, row, column.base));
      return value === undefined || value < low || value > high;
    };
    let [seconds, last] = [0, { row: -1, isBeyond: false }];
    for (let row = 1; row < times.length; row += 1) {
      const before = column.data[row - 1] as number;
      if (column.data[row] !== before || (before > low && before < high)) continue;
      const begins = last.row === row - 1 ? last.isBeyond : isBeyond(row - 1);
      last = { row, isBeyond: isBeyond(row) };
      if (begins || last.isBeyond) seconds += (times[row] as number) - (times[row - 1] as number);
    }
    if (seconds === 0) return [];
    const message = `${column.name} stood at a limit for ${timeWords(seconds)}: the plant is believable there only because it is clipped. If that is an end stop, say end_stops: true in the component.`;
    return [{ signal: column.name, seconds, message }];
  });
}

/** Reads slots at a row of one time base, and those of others, which are held, at its time. Rows are asked for from first to last. */
function reader(trace: Trace, constant: (slot: SlotNumber) => number) {
  const columns = new Map(trace.columns.map((column) => [column.slot, column]));
  const reached = new Map<number, number>();
  return (slot: SlotNumber, at: number, row: number, base: number): number => {
    const column = columns.get(slot);
    if (!column) return constant(slot);
    if (column.base === base) return column.data[row] as number;
    const times = trace.bases[column.base] as Float64Array;
    let index = reached.get(column.base) ?? 0;
    while (index + 1 < times.length && (times[index + 1] as number) <= at) index += 1;
    reached.set(column.base, index);
    return column.data[index] as number;
  };
}
