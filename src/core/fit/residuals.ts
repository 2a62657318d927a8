import { signalOf, valueAt } from '@/core/compare';
import type { InputChange, Plan, SlotNumber } from '@/core/plan';
import { type Experiment, simulate } from '@/core/simulate';
import type { Column, Trace } from '@/core/trace';

/** A recorded signal that the simulation has to meet: its instants and values, and the size of one unit of error. */
export interface Aim {
  readonly name: string;
  readonly unit: string;
  readonly slot: SlotNumber;
  readonly time: Float64Array;
  readonly values: Float64Array;
  readonly size: number;
}

/** Recorded inputs act in the simulation as they were recorded: held, or straight from row to row. */
export function recordedInputs(recording: Trace, plan: Plan): InputChange[] {
  return plan.inputs
    .flatMap((input, index): InputChange[] => {
      const column = columnNamed(recording, input.name);
      const time = column && recording.bases[column.base];
      if (!column || !time) return [];
      return Array.from(time, (t, row): InputChange => {
        const [value, next, until] = [column.data[row] as number, column.data[row + 1], time[row + 1]];
        const isStraight = input.slope !== undefined && column.between === 'straight' && next !== undefined && until !== undefined && until > t;
        return { atNs: Math.max(0, Math.round(t * 1e9)), input: index, value, slope: isStraight ? (next - value) / (until - t) : 0 };
      });
    })
    .sort((a, b) => a.atNs - b.atNs);
}

export function columnNamed(trace: Trace, name: string): Column | undefined {
  return trace.columns.find((column) => column.name.toLowerCase() === name.toLowerCase());
}

/** Recorded signals that the simulation logs as well, each row of them within the time of the experiment. */
export function aimsOf(recording: Trace, experiment: Experiment, names: readonly string[]): Aim[] {
  return names.flatMap((name) => {
    const column = columnNamed(recording, name);
    const time = column && recording.bases[column.base];
    const slot = experiment.plan.slots.findIndex((one) => one.name.toLowerCase() === name.toLowerCase());
    if (!column || !time || slot < 0) return [];
    const rows = Array.from(time.keys()).filter(
      (row) => (time[row] as number) <= experiment.stopNs / 1e9 && (time[row] as number) >= 0 && !Number.isNaN(column.data[row]),
    );
    const values = Float64Array.from(rows, (row) => column.data[row] as number);
    const size = Math.max(1e-12, spanOf(values));
    return [{ name: column.name, unit: column.unit, slot, time: Float64Array.from(rows, (row) => time[row] as number), values, size }];
  });
}

function spanOf(values: Float64Array): number {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const value of values) [low, high] = [Math.min(low, value), Math.max(high, value)];
  return high > low ? high - low : 1;
}

/** Where a parameter makes the run end early, every row that is missing counts so much. */
const missing = 1e3;

/** Simulated minus recorded, in units of each aim's size, all aims one after the other; every row of a run that fails is a large one. */
export function residualsOf(experiment: Experiment, overrides: readonly (readonly [SlotNumber, number])[], aims: readonly Aim[]): Float64Array {
  const { trace } = simulate({ ...experiment, overrides: [...experiment.overrides, ...overrides] });
  const all = new Float64Array(aims.reduce((sum, aim) => sum + aim.time.length, 0));
  let at = 0;
  for (const aim of aims) {
    const column = trace.columns.find((one) => one.slot === aim.slot);
    const signal = column && signalOf(column, trace);
    for (let row = 0; row < aim.time.length; row += 1, at += 1) {
      const value = ((signal ? valueAt(signal, aim.time[row] as number) : Number.NaN) - (aim.values[row] as number)) / aim.size;
      all[at] = Number.isFinite(value) ? value : missing;
    }
  }
  return all;
}
