import { nameKey } from '@/core/language';
import type { Column, Trace } from '@/core/trace';
import { plural } from '@/core/wording';
import { columnNamed } from './residuals';
import type { FitQuestion } from './types';

/** What a fit made no use of, and what in a recording would lead it astray: never passed over without a word. */
export function remarksOn({ experiment, recording, holdOut, signals }: FitQuestion): string[] {
  const inputs = new Set(experiment.plan.inputs.map((input) => nameKey(input.name)));
  const wanted = new Set(signals.map(nameKey));
  const of = (trace: Trace, which: string): string[] => {
    const used = trace.columns.filter((column) => inputs.has(nameKey(column.name)) || wanted.has(nameKey(column.name)));
    return [
      ...leftOut(trace, which, inputs, wanted, experiment.plan.slots),
      ...missing(trace, which, signals),
      ...emptyCells(used, which),
      ...stepped(used, trace, which),
    ];
  };
  return [...of(recording, 'recording'), ...(holdOut ? of(holdOut, 'recording held out') : [])];
}

function leftOut(
  { columns }: Trace,
  which: string,
  inputs: ReadonlySet<string>,
  wanted: ReadonlySet<string>,
  slots: readonly { readonly name: string }[],
): string[] {
  const rest = columns.filter((column) => !inputs.has(nameKey(column.name)) && !wanted.has(nameKey(column.name)));
  const known = new Set(slots.map((slot) => nameKey(slot.name)));
  const [chosen, foreign] = [rest.filter((column) => known.has(nameKey(column.name))), rest.filter((column) => !known.has(nameKey(column.name)))];
  const names = (list: readonly Column[]): string => list.map((column) => column.name).join(', ');
  return [
    ...(foreign.length > 0 ? [`Not used of the ${which}: ${names(foreign)}, which is neither a free input nor a signal of this loop.`] : []),
    ...(chosen.length > 0 ? [`Not fitted, because not chosen: ${names(chosen)}${which === 'recording' ? '' : ` (${which})`}.`] : []),
  ];
}

function missing(trace: Trace, which: string, signals: readonly string[]): string[] {
  const absent = signals.filter((name) => !columnNamed(trace, name));
  return absent.length > 0 ? [`The ${which} has no column ${absent.join(', ')}, so ${absent.length === 1 ? 'it was' : 'they were'} not fitted.`] : [];
}

function emptyCells(columns: readonly Column[], which: string): string[] {
  return columns.flatMap(({ name, data }) => {
    const empty = data.filter(Number.isNaN).length;
    return empty > 0 ? [`${name} lacks a value in ${plural(empty, 'row')} of the ${which}; these count for nothing.`] : [];
  });
}

/** A column that only ever jumps from one flat stretch to the next is held in truth: run straight between its rows it ramps where the thing itself stepped. */
function stepped(columns: readonly Column[], { bases }: Trace, which: string): string[] {
  return columns.flatMap((column) => {
    const time = bases[column.base];
    if (column.between === 'held' || !time || !looksStepped(column.data, time)) return [];
    const title = `${column.name}[${column.unit}]{hold}`;
    return [
      `${column.name} goes in steps but is taken as straight between the rows of the ${which}, which biases the fit: head the column ${title}.`,
    ];
  });
}

function looksStepped(data: Float64Array, time: Float64Array): boolean {
  let [changes, steps] = [0, 0];
  for (let row = 1; row < data.length; row += 1) {
    // A jump written as two rows of one instant is exact.
    if (data[row] === data[row - 1] || time[row] === time[row - 1]) continue;
    changes += 1;
    const flatBefore = row < 2 || data[row - 1] === data[row - 2];
    const flatAfter = row + 1 >= data.length || data[row + 1] === data[row];
    if (flatBefore && flatAfter) steps += 1;
  }
  return changes > 0 && steps === changes && data.length > 3;
}
