import type { Column, Trace } from './types';

/**
 * A trace at instants of equal distance: what each signal is there, after any jump; straight signals between their rows. Peaks between the instants are not in it.
 * @param every s
 */
export function resampled(trace: Trace, every: number, from: number, until: number): Trace {
  const count = Math.max(0, Math.floor((until - from) / every + 1e-9) + 1);
  // Multiplied, never summed up, and without the last digits' dust.
  const time = Float64Array.from({ length: count }, (_, index) => Number((from + index * every).toPrecision(15)));
  return {
    ...trace,
    bases: [time],
    columns: trace.columns.map((column) => ({ ...column, base: 0, data: valuesAt(column, trace.bases[column.base] ?? new Float64Array(), time) })),
    from: time[0] ?? from,
    until: time.at(-1) ?? from,
  };
}

function valuesAt({ data, between }: Column, rows: Float64Array, time: Float64Array): Float64Array {
  let row = -1;
  return time.map((t) => {
    while (row + 1 < rows.length && (rows[row + 1] as number) <= t) row += 1;
    if (row < 0) return Number.NaN;
    const [begun, value] = [rows[row] as number, data[row] as number];
    if (between === 'held' || t === begun) return value;
    if (row + 1 >= rows.length) return Number.NaN;
    return value + ((t - begun) / ((rows[row + 1] as number) - begun)) * ((data[row + 1] as number) - value);
  });
}

/** A trace from an instant to another. */
export function cutOut(trace: Trace, from: number, until: number): Trace {
  const bounds = trace.bases.map((time) => {
    let [first, end] = [0, time.length];
    while (first < end && (time[first] as number) < from) first += 1;
    while (end > first && (time[end - 1] as number) > until) end -= 1;
    return [first, end] as const;
  });
  const cut = (data: Float64Array, base: number): Float64Array => data.subarray(...(bounds[base] ?? [0, 0]));
  return {
    ...trace,
    bases: trace.bases.map(cut),
    columns: trace.columns.map((column) => ({ ...column, data: cut(column.data, column.base) })),
    from: Math.max(trace.from, from),
    until: Math.min(trace.until, until),
  };
}
