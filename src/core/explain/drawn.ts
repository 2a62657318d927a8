import { type Criterion, criterionSlots } from '@/core/criteria';
import type { Catalogue, CatalogueEntry } from '@/core/loop';
import type { Column, Trace } from '@/core/trace';
import { columnOf, isReal } from './column';

/** A trace somebody draws by hand: values of signals, by name, at common instants (s). */
export interface DrawnTrace {
  readonly time: readonly number[];
  readonly signals: readonly { readonly name: string; readonly values: readonly number[] }[];
}

/** What is shown, ready to be drawn over. */
export function drawnFrom({ bases, columns }: Trace): DrawnTrace {
  return { time: [...(bases[0] ?? [])], signals: columns.map(({ name, data }) => ({ name, values: [...data] })) };
}

/** One point under the pen: an instant (s) and a value in the signal's unit. */
export interface PenPoint {
  readonly at: number;
  readonly value: number;
}

/** The trace after a stroke of the pen over one signal: every instant between the two points takes the value on the line between them, the nearest to each the point's own. */
export function strokeOver(drawn: DrawnTrace, name: string, from: PenPoint, to: PenPoint): DrawnTrace {
  const { time } = drawn;
  const [first, last] = from.at <= to.at ? [from, to] : [to, from];
  const [low, high] = [nearest(time, first.at), nearest(time, last.at)];
  const valueAt = (index: number): number => {
    if (index === nearest(time, to.at)) return to.value;
    const share = last.at === first.at ? 0 : ((time[index] as number) - first.at) / (last.at - first.at);
    return first.value + Math.min(1, Math.max(0, share)) * (last.value - first.value);
  };
  const over = (values: readonly number[]): number[] => values.map((value, index) => (index >= low && index <= high ? valueAt(index) : value));
  return { ...drawn, signals: drawn.signals.map((one) => (one.name === name ? { name, values: over(one.values) } : one)) };
}

function nearest(time: readonly number[], at: number): number {
  return time.reduce((best, t, index) => (Math.abs(t - at) < Math.abs((time[best] as number) - at) ? index : best), 0);
}

/** A drawn trace as one that can be judged: whole numbers and truths rounded, ranges kept; a signal that was never drawn stays at 0 or the nearest end of its range. */
export function traceOfDrawn({ time, signals }: DrawnTrace, criterion: Criterion, catalogue: Catalogue): Trace {
  const entries = new Map(catalogue.entries.map((entry) => [entry.slot, entry]));
  const columns = criterionSlots(criterion).flatMap((slot): Column[] => {
    const entry = entries.get(slot);
    if (!entry) return [];
    const values = signals.find((one) => one.name === entry.name)?.values;
    const data = Float64Array.from(time, (_, index) => fitting(entry, values?.[index] ?? 0));
    return [columnOf(entry, data, catalogue)];
  });
  const marks = { time: new Float64Array(), mark: new Int32Array(), entered: new Uint8Array() };
  return { bases: [Float64Array.from(time)], columns, marks, from: time[0] ?? 0, until: time.at(-1) ?? 0 };
}

function fitting(entry: CatalogueEntry, value: number): number {
  const { type, min, max } = entry;
  if (type === 'BOOL') return value >= 0.5 ? 1 : 0;
  const whole = isReal(entry) ? value : Math.round(value);
  return Math.min(max ?? Number.POSITIVE_INFINITY, Math.max(min ?? Number.NEGATIVE_INFINITY, whole));
}
