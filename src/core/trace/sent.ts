import type { Trace } from './types';

/** A trace as it is sent from process to process as JSON. */
export type SentTrace = Omit<Trace, 'marks' | 'bases' | 'columns'> & {
  readonly bases: readonly (readonly number[])[];
  readonly columns: readonly (Omit<Trace['columns'][number], 'data'> & { readonly data: readonly number[] })[];
  readonly marks: { readonly time: readonly number[]; readonly mark: readonly number[]; readonly entered: readonly number[] };
};

export function sentTrace({ bases, columns, marks, from, until }: Trace): SentTrace {
  return {
    bases: bases.map((base) => Array.from(base)),
    columns: columns.map((column) => ({ ...column, data: Array.from(column.data) })),
    marks: { time: Array.from(marks.time), mark: Array.from(marks.mark), entered: Array.from(marks.entered) },
    from,
    until,
  };
}

export function receivedTrace({ bases, columns, marks, from, until }: SentTrace): Trace {
  return {
    bases: bases.map((base) => Float64Array.from(base)),
    columns: columns.map((column) => ({ ...column, data: Float64Array.from(column.data) })),
    marks: { time: Float64Array.from(marks.time), mark: Int32Array.from(marks.mark), entered: Uint8Array.from(marks.entered) },
    from,
    until,
  };
}
