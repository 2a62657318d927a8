import type { Trusted } from '@/core/plan';
import type { Column, Trace } from '@/core/trace';
import { figure, timeWords } from '@/core/wording';
import type { Implausible } from './types';

/** Looks through all columns with a declared range, and those in which the plant is trusted only in part; tells the first instant outside, once per signal. */
export function watchRanges(trace: Trace, trusted: readonly Trusted[] = []): Implausible[] {
  const declared = trace.columns.flatMap((column) => {
    const { min, max } = column;
    return min === undefined && max === undefined ? [] : outside(trace, column, { min, max }, (value, at) => describe(column, value, at));
  });
  const left = trusted.flatMap(({ slot, low, high, because }) => {
    const column = trace.columns.find((one) => one.slot === slot);
    return column
      ? outside(
          trace,
          column,
          { min: low, max: high },
          (value, at) => `${described(column, value, at)}; the plant is trusted from ${figure(low)} to ${figure(high)}: ${because}`,
        )
      : [];
  });
  return [...declared, ...left];
}

function outside(
  trace: Trace,
  column: Column,
  { min = Number.NEGATIVE_INFINITY, max = Number.POSITIVE_INFINITY }: { readonly min?: number | undefined; readonly max?: number | undefined },
  words: (value: number, at: number) => string,
): Implausible[] {
  // Rounding in the last digits at a limit is no implausible value.
  const slack = 1e-9 * Math.max(1, Math.abs(min) < Infinity ? Math.abs(min) : 0, Math.abs(max) < Infinity ? Math.abs(max) : 0);
  const first = firstOutside(column.data, min - slack, max + slack);
  if (first < 0) return [];
  const at = trace.bases[column.base]?.[first] ?? 0;
  const value = column.data[first] as number;
  return [{ signal: column.name, at, value, message: words(value, at) }];
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
  const { min, max } = column;
  return `implausible value: ${described(column, value, at)}, allowed ${min === undefined ? '…' : figure(min)}…${max === undefined ? '' : figure(max)}`;
}

function described({ name, unit }: Column, value: number, at: number): string {
  return `${name} ${figure(value)}${unit ? ` ${unit}` : ''} at ${timeWords(at)}`;
}
