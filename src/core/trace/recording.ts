import { parse } from 'csv-parse/browser/esm/sync';
import { plural, timeWords } from '@/core/wording';
import type { Column, Trace } from './types';

/** Largest recording that is read, in characters. */
const largest = 200_000_000;

/** Why a recording cannot be read, and in which line. */
interface Unreadable {
  readonly problem: string;
  readonly line: number;
}

/**
 * Reads a CSV trace: `time[s]` first, columns `name[unit]`, `{hold}` honoured. A column of only TRUE and FALSE is BOOL; one of names has these as values,
 * in the order that `{Idle|Run}` behind its name gives, else in that of the alphabet. An empty cell is a missing value.
 */
export function readRecording(text: string): Trace | Unreadable {
  if (text.length > largest) return { problem: `the file has more than ${largest} characters`, line: 1 };
  let rows: string[][];
  try {
    rows = parse(text, { bom: true, skip_empty_lines: true, trim: true, relax_column_count: true });
  } catch (problem) {
    return { problem: problem instanceof Error ? problem.message : 'not CSV', line: 1 };
  }
  const [head, ...body] = rows;
  if (!head || !/^time\s*\[s\]$/i.test(head[0] ?? '')) return { problem: 'the first column must be "time[s]"', line: 1 };
  if (body.length === 0) return { problem: 'there are no rows', line: 2 };
  const time = new Float64Array(body.length);
  for (const [index, row] of body.entries()) {
    if (row.length > head.length) return { problem: `the row has ${plural(row.length, 'cell')}, but the header ${head.length}`, line: index + 2 };
    const t = Number(row[0]);
    if (row[0] === '' || !Number.isFinite(t)) return { problem: `"${row[0]}" is not a time in seconds`, line: index + 2 };
    if (index > 0 && t < (time[index - 1] as number)) return { problem: `the time goes back to ${timeWords(t)}`, line: index + 2 };
    time[index] = t;
  }
  return readColumns(head, body, time);
}

function readColumns(head: readonly string[], body: readonly string[][], time: Float64Array): Trace | Unreadable {
  const columns: Column[] = [];
  for (const [index, title] of head.entries()) {
    if (index === 0) continue;
    const match = /^([A-Za-z_][A-Za-z0-9_.]*)\s*(?:\[([^\]]*)\])?\s*(?:\{(hold|[\w-]+(?:\|[\w-]+)*)\})?$/.exec(title);
    if (!match) return { problem: `the column title "${title}" is not name[unit]`, line: 1 };
    const name = match[1] ?? '';
    const unit = match[2] ?? '';
    if (columns.some((column) => column.name.toLowerCase() === name.toLowerCase())) return { problem: `the column "${name}" stands twice`, line: 1 };
    const cells = body.map((row) => row[index] ?? '');
    const bool = cells.some((one) => one !== '') && cells.every((one) => /^(true|false)?$/i.test(one));
    // What has a unit is a quantity: a word in it is a fault.
    const labels = unit === '' ? labelsOf(match[3], cells) : undefined;
    const data = new Float64Array(cells.length);
    for (const [row, text] of cells.entries()) {
      const value =
        text === '' || /^nan$/i.test(text) ? Number.NaN : bool ? Number(/^true$/i.test(text)) : labels ? labels.indexOf(text) : Number(text);
      if (value === -1 && labels) return { problem: `"${text}" in column "${name}" is none of ${labels.join(', ')}`, line: row + 2 };
      if (text !== '' && !/^nan$/i.test(text) && Number.isNaN(value))
        return { problem: `"${text}" in column "${name}" is not a number`, line: row + 2 };
      data[row] = value;
    }
    const type = bool ? 'BOOL' : labels ? 'INT' : 'LREAL';
    const between = bool || match[3] ? 'held' : 'straight';
    const slot = index;
    columns.push({ name, slot, base: 0, between: labels ? 'held' : between, type, unit, data, ...(labels ? { labels: labels.map(unnamed) } : {}) });
  }
  const marks = { time: new Float64Array(0), mark: new Int32Array(0), entered: new Uint8Array(0) };
  return { bases: [time], columns, marks, from: time[0] ?? 0, until: time.at(-1) ?? 0 };
}

/** What stands in a column of a chart's region where no state of it is active. */
export const noState = '-';

function unnamed(label: string): string {
  return label === noState ? '' : label;
}

/** Most names that are taken from the cells of a column. */
const mostNames = 200;

/** Names that a column has for its values: those its title tells, or those in its cells, where all of these are names. */
function labelsOf(told: string | undefined, cells: readonly string[]): readonly string[] | undefined {
  if (told !== undefined && told !== 'hold') return told.split('|');
  const names = new Set(cells.filter((one) => one !== '' && !/^(true|false|nan)$/i.test(one)));
  const areNames =
    names.size > 0 && names.size <= mostNames && [...names].every((one) => /^[A-Za-z]\w*$/.test(one) && !/^(inf|infinity)$/i.test(one));
  return areNames && cells.every((one) => one === '' || names.has(one)) ? [...names].sort() : undefined;
}
