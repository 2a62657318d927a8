import type { Column, Trace } from '../trace';
import type { Implausible } from './types';

/** Looks through all columns with a declared range; tells the first instant outside and the worst value, once per signal. */
export function watchRanges(trace: Trace): Implausible[] {
  return trace.columns.flatMap((column) => {
    const { min = Number.NEGATIVE_INFINITY, max = Number.POSITIVE_INFINITY, data } = column;
    if (column.min === undefined && column.max === undefined) return [];
    // Rounding in the last digits at a limit is no implausible value.
    const slack = 1e-9 * Math.max(1, Math.abs(min) < Infinity ? Math.abs(min) : 0, Math.abs(max) < Infinity ? Math.abs(max) : 0);
    const [low, high] = [min - slack, max + slack];
    const first = firstOutside(data, low, high);
    if (first < 0) return [];
    const at = trace.bases[column.base]?.[first] ?? 0;
    const value = data[first] as number;
    return [{ signal: column.name, at, value, message: describe(column, value, at) }];
  });
}

/** A function of its own, so that it stays compiled from run to run. */
function firstOutside(data: Float64Array, low: number, high: number): number {
  for (let row = 0; row < data.length; row += 1) {
    const value = data[row] as number;
    if (value < low || value > high) return row;
  }
  return -1;
}

function describe(column: Column, value: number, at: number): string {
  const { name, unit, min, max } = column;
  const figure = (number: number): string => String(Number(number.toPrecision(4))).replace('-', '−');
  return `implausible value: ${name} ${figure(value)}${unit ? ` ${unit}` : ''} at ${figure(at)} s, allowed ${min === undefined ? '…' : figure(min)}…${max === undefined ? '' : figure(max)}`;
}
