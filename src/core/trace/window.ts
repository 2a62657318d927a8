import type { Column, Trace } from './types';

/** Some columns of a trace from an instant on (with the row before it) to another (with the row after it), in memory of their own: what is shown, or handed to another thread. */
export function windowOf(trace: Trace, slots: readonly number[], from: number, until = trace.until): Trace {
  const wanted = new Set(slots);
  const chosen = trace.columns.filter((column) => wanted.has(column.slot));
  const used = [...new Set([0, ...chosen.map((column) => column.base)])];
  const starts = new Map(used.map((base) => [base, Math.max(0, firstFrom(trace.bases[base] ?? new Float64Array(), from) - 1)]));
  const ends = new Map(used.map((base) => [base, endOf(trace.bases[base] ?? new Float64Array(), until)]));
  const columns = chosen.map(
    (column): Column => ({ ...column, base: used.indexOf(column.base), data: column.data.slice(starts.get(column.base), ends.get(column.base)) }),
  );
  const bases = used.map((base) => (trace.bases[base] ?? new Float64Array()).slice(starts.get(base), ends.get(base)));
  return {
    bases,
    columns,
    marks: { time: new Float64Array(), mark: new Int32Array(), entered: new Uint8Array() },
    from: Math.max(trace.from, from),
    until: Math.min(trace.until, until),
  };
}

/** Behind the first instant after `until`. */
function endOf(time: Float64Array, until: number): number {
  const last = time.at(-1);
  return last === undefined || last <= until ? time.length : firstFrom(time, until) + 1;
}

/** Index of the first instant that is at least `from`. */
function firstFrom(time: Float64Array, from: number): number {
  let [low, high] = [0, time.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((time[middle] as number) < from) low = middle + 1;
    else high = middle;
  }
  return low;
}
