import { Catalogue } from '@/core/loop';
import type { ValueType } from '@/core/plan';
import type { Column, Trace } from '@/core/trace';

/** A signal of a recording by its name: its type, and its value at each row. */
export type Recorded = Readonly<Record<string, readonly [ValueType, readonly number[]]>>;

/** A trace whose signals keep their values from row to row, `step` seconds apart, with the names of its signals. Slots are numbered in order. */
export function recordedTrace(
  signals: Recorded,
  step: number,
  between: Column['between'] = 'held',
): { readonly trace: Trace; readonly catalogue: Catalogue } {
  const all = Object.entries(signals);
  const rows = all[0]?.[1][1].length ?? 0;
  const time = Float64Array.from({ length: rows }, (_, row) => Math.round(row * step * 1e9) / 1e9);
  const catalogue = new Catalogue();
  const columns = all.map(([name, [type, values]], slot): Column => {
    catalogue.add({ name, slot, type, unit: '', about: '', role: 'output' });
    return { name, slot, base: 0, between: type === 'LREAL' ? between : 'held', type, unit: '', data: Float64Array.from(values) };
  });
  const marks = { time: new Float64Array(), mark: new Int32Array(), entered: new Uint8Array() };
  return { trace: { bases: [time], columns, marks, from: 0, until: time.at(-1) ?? 0 }, catalogue };
}
