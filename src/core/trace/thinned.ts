import type { Column, Trace } from './types';
import { windowOf } from './window';

/**
 * A trace with at most two rows for each of so many stretches of equal time: the least and the greatest value of each column there, so that no peak is lost. Columns with names for
 * their values (states, enumerations) have the first and the last value of each stretch. What has no more rows than that stays as it is.
 * @returns memory of its own
 */
export function thinned(trace: Trace, stretches: number): Trace {
  const { from, until } = trace;
  const bases = trace.bases.map((time) => (time.length > 2 * stretches && until > from ? new Stretches(time, from, until, stretches) : undefined));
  return {
    ...trace,
    bases: trace.bases.map((time, index) => bases[index]?.time ?? time.slice()),
    columns: trace.columns.map((column) => ({ ...column, data: bases[column.base]?.values(column) ?? column.data.slice() })),
  };
}

/** Rows of one time base, by the stretch they lie in; stretches without rows are left out. */
class Stretches {
  /** Two instants for each stretch: those of its first and its last row. */
  readonly time: Float64Array;
  private readonly begins: number[] = [];

  constructor(time: Float64Array, from: number, until: number, stretches: number) {
    let at = -1;
    time.forEach((t, row) => {
      const stretch = Math.min(stretches - 1, Math.floor(((t - from) / (until - from)) * stretches));
      if (stretch > at) this.begins.push(row);
      at = Math.max(at, stretch);
    });
    this.begins.push(time.length);
    this.time = new Float64Array(2 * (this.begins.length - 1));
    this.each((first, end, index) => {
      this.time[2 * index] = time[first] as number;
      this.time[2 * index + 1] = time[end - 1] as number;
    });
  }

  values({ data, labels }: Column): Float64Array {
    const values = new Float64Array(this.time.length);
    this.each((first, end, index) => {
      if (labels) {
        values[2 * index] = data[first] as number;
        values[2 * index + 1] = data[end - 1] as number;
        return;
      }
      let [low, high, lowAt, highAt] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, first, first];
      for (let row = first; row < end; row += 1) {
        const value = data[row] as number;
        if (value < low) [low, lowAt] = [value, row];
        if (value > high) [high, highAt] = [value, row];
      }
      if (low > high) [low, high] = [Number.NaN, Number.NaN];
      // In the order in which they came, so that a rise stays a rise.
      [values[2 * index], values[2 * index + 1]] = lowAt <= highAt ? [low, high] : [high, low];
    });
    return values;
  }

  private each(take: (first: number, end: number, index: number) => void): void {
    for (let index = 0; index + 1 < this.begins.length; index += 1) take(this.begins[index] as number, this.begins[index + 1] as number, index);
  }
}

/** One trace after the other, of the same columns; where they overlap the later one counts. */
export function joinedTraces(before: Trace, after: Trace): Trace {
  const rows = before.bases.map((time) => {
    let count = time.length;
    while (count > 0 && (time[count - 1] as number) >= after.from) count -= 1;
    return count;
  });
  const join = (a: Float64Array, count: number, b: Float64Array): Float64Array => {
    const all = new Float64Array(count + b.length);
    all.set(a.subarray(0, count));
    all.set(b, count);
    return all;
  };
  return {
    ...after,
    bases: after.bases.map((time, base) => join(before.bases[base] ?? new Float64Array(), rows[base] ?? 0, time)),
    columns: after.columns.map((column, index) => joinedColumn(column, before.columns[index], rows, join)),
    from: Math.min(before.from, after.from),
  };
}

function joinedColumn(
  column: Column,
  before: Column | undefined,
  rows: readonly number[],
  join: (a: Float64Array, count: number, b: Float64Array) => Float64Array,
): Column {
  return { ...column, data: join(before?.data ?? new Float64Array(), rows[column.base] ?? 0, column.data) };
}

/** Some columns over a stretch of time with no more rows than a screen can show. */
export function shownOf(trace: Trace, slots: readonly number[], from: number, until: number | undefined, stretches: number): Trace {
  return thinned(windowOf(trace, slots, from, until), stretches);
}
