import { Catalogue } from '@/core/loop';
import { holds } from '@/core/plan';
import { type Column, noState, readRecording, stateMarks, type Trace } from '@/core/trace';
import { unitCode } from '@/core/units';

/**
 * Writes a trace as CSV: first column `time[s]`, then `name[unit]`, with the suffix `{hold}` for columns that keep their value between rows,
 * and `{Idle|Run}` with the names of their values for those that have some: `-` is no state of a chart.
 * Two rows of equal time are the values before and after a jump. Numbers are written so that reading them gives the same bits.
 * @param wanted names to write; all when absent
 */
export function writeCsvTrace(trace: Trace, wanted?: readonly Column[]): string {
  const columns = wanted ?? trace.columns;
  const base = trace.bases[0] ?? new Float64Array(0);
  const heads = columns.map((column) => quote(headOf(column)));
  const lines = [['time[s]', ...heads].join(',')];
  const rows = columns.map(() => -1);
  for (let i = 0; i < base.length; i += 1) {
    const t = base[i] as number;
    // Of two rows of equal time the first shows the values before the tasks of that instant have run.
    const before = base[i + 1] === t;
    const cells = columns.map((column, index) => {
      if (column.base === 0) return cell(column, i);
      const times = trace.bases[column.base] as Float64Array;
      let row = rows[index] as number;
      while (row + 1 < times.length && ((times[row + 1] as number) < t || (times[row + 1] === t && !before))) row += 1;
      rows[index] = row;
      return row < 0 ? '' : cell(column, row);
    });
    lines.push([String(t), ...cells].join(','));
  }
  return `${lines.join('\n')}\n`;
}

function headOf({ name, unit, between, type, labels }: Column): string {
  if (labels) return `${name}{${labels.map((label) => label || noState).join('|')}}`;
  return `${name}[${type === 'TIME' ? 'ns' : unitCode(unit)}]${between === 'held' && type !== 'BOOL' ? '{hold}' : ''}`;
}

function cell(column: Column, row: number): string {
  const value = column.data[row] as number;
  if (Number.isNaN(value)) return '';
  if (column.labels) return column.labels[value] || (value === 0 ? noState : String(value));
  if (column.type === 'BOOL') return value !== 0 ? 'TRUE' : 'FALSE';
  return String(value);
}

function quote(text: string): string {
  return /[",\n]/.test(text) ? `"${text.replace(/"/g, '""')}"` : text;
}

/** A recording with the catalogue of its columns, or what is wrong with it. */
export type ReadTrace = { readonly trace: Trace; readonly catalogue: Catalogue } | { readonly problem: string; readonly line: number };

/** Reads a CSV trace as `readRecording` does, and makes its columns known by name, with the states that columns of a chart tell. */
export function readCsvTrace(text: string): ReadTrace {
  const trace = readRecording(text);
  if ('problem' in trace) return trace;
  const catalogue = new Catalogue();
  for (const { name, slot, type, unit, labels } of trace.columns) {
    const isRegion = labels?.[0] === '';
    const enumeration = labels && !isRegion ? { enumeration: { name: '', values: labels } } : {};
    catalogue.add({ name, slot, type, unit, role: isRegion ? 'region' : 'output', about: '', ...enumeration });
    for (const [number, label] of isRegion ? labels.entries() : [])
      if (number > 0) catalogue.addState(`${name}.${label}`, holds(slot, number), markOf(slot, number));
  }
  const regions = trace.columns.filter(({ labels }) => labels?.[0] === '');
  return { trace: { ...trace, marks: stateMarks(regions, trace.bases, ({ slot }, state) => markOf(slot, state)) }, catalogue };
}

/** States by the number of their column and of the state in it: more than a column can have names. */
const mostStates = 10_000;

function markOf(slot: number, state: number): number {
  return slot * mostStates + state;
}
