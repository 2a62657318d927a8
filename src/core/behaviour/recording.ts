import type { Faults, Place } from '@/core/fault';
import { numberOfValue, type PlanBuilder, typeWords } from '@/core/formula';
import { nameKey, nearestName } from '@/core/language';
import { Recent } from '@/core/memory';
import { type Enumeration, type InputChange, integerRange, type ValueType } from '@/core/plan';
import type { RawRecording } from '@/core/shapes';
import { type Column, readRecording, type Trace } from '@/core/trace';
import { inUnit, sameUnit } from '@/core/units';
import { sentenceOf } from '@/core/wording';
import type { Instance, OutputPort } from './instance';

/** Adds a recording to the plan: each output is a free input that plays its column; before the first row and after the last its value is held. */
export function addRecording(
  instance: Instance,
  behaviour: RawRecording,
  recordings: ReadonlyMap<string, string>,
  builder: PlanBuilder,
  faults: Faults,
): void {
  const { document } = instance.component;
  const trace = openRecording(behaviour.file, document.place(['behaviour', 'file']), recordings, faults);
  if (!trace) return;
  for (const [key, port] of instance.outputs) {
    const name = port.name.slice(instance.name.length + 1);
    const wanted = Object.entries(behaviour.outputs ?? {}).find(([one]) => nameKey(one) === key)?.[1] ?? name;
    const column = columnFor(wanted, port, trace, document.place(['behaviour', 'outputs', name]), faults);
    if (column) play(column, trace, port, builder);
  }
}

/** A recording of the project by its path; what is wrong with it is told. @param place where it is named */
export function openRecording(file: string, place: Place, recordings: ReadonlyMap<string, string>, faults: Faults): Trace | undefined {
  const text = recordings.get(file);
  if (text === undefined) {
    const near = nearestName(file, recordings.keys());
    faults.add('unknown-name', place, `There is no recording "${file}".`, near ? `Did you mean "${near}"?` : 'Put the file under recordings/.');
    return undefined;
  }
  const trace = traceOf(text);
  if (!('problem' in trace)) return trace;
  faults.add(
    'file-unreadable',
    { file, line: trace.line, column: 1 },
    sentenceOf(`The recording cannot be read: ${trace.problem}`),
    'Columns are time[s], then name[unit]; one row each.',
  );
  return undefined;
}

/** The column that something plays, which has to be of its unit and kind. @param place where it is named */
export function columnFor(
  wanted: string,
  player: { readonly name: string; readonly unit: string; readonly type: ValueType; readonly enumeration?: Enumeration },
  trace: Trace,
  place: Place,
  faults: Faults,
): Column | undefined {
  const column = trace.columns.find((one) => nameKey(one.name) === nameKey(wanted));
  if (!column) {
    const near = nearestName(
      wanted,
      trace.columns.map((one) => one.name),
    );
    faults.add('unknown-name', place, `The recording has no column "${wanted}".`, near ? `Did you mean "${near}"?` : 'Name one of its columns.');
    return undefined;
  }
  if (!sameUnit(column.unit, player.unit))
    faults.add(
      'unit',
      place,
      `The column ${column.name} ${inUnit(column.unit)}, but ${player.name} ${inUnit(player.unit)}.`,
      'Change one of the units.',
    );
  if ((column.type === 'BOOL') !== (player.type === 'BOOL'))
    faults.add(
      'type',
      place,
      `The column ${column.name} is ${column.type}, but ${player.name} is ${player.type}.`,
      'Choose another column, or change the type.',
    );
  return column.labels || player.enumeration ? withNumbersOf(column, player, place, faults) : wholeAsNeeded(column, player, place, faults);
}

/** A whole number plays whole numbers only. */
function wholeAsNeeded(column: Column, { name, type }: { readonly name: string; readonly type: ValueType }, place: Place, faults: Faults): Column {
  const odd =
    integerRange[type] && column.type !== 'BOOL' ? column.data.find((value) => !Number.isNaN(value) && !Number.isInteger(value)) : undefined;
  if (odd !== undefined)
    faults.add(
      'type',
      place,
      `The column ${column.name} has the value ${odd}, but ${name} is ${type}.`,
      'Choose another column, or change the type.',
    );
  return column;
}

/** A column of names with the numbers that these have in the enumeration that plays them; one of numbers as far as they are numbers of values. */
function withNumbersOf(
  column: Column,
  { name, type, enumeration }: { readonly name: string; readonly type: ValueType; readonly enumeration?: Enumeration },
  place: Place,
  faults: Faults,
): Column | undefined {
  if (!enumeration) {
    faults.add(
      'type',
      place,
      `The column ${column.name} has names for values, but ${name} is ${type}.`,
      'Choose another column, or change the type.',
    );
    return undefined;
  }
  const { labels } = column;
  const numbers = labels?.map((label) => numberOfValue(label, enumeration));
  const data = column.data.map((value) => (numbers && !Number.isNaN(value) ? (numbers[value] ?? -1) : value));
  const odd = data.findIndex((value) => !Number.isNaN(value) && enumeration.values[value] === undefined);
  if (odd < 0) return { ...column, data };
  const value = column.data[odd] as number;
  faults.add(
    'type',
    place,
    `The column ${column.name} has the value ${labels?.[value] || value}, which is none of ${typeWords(enumeration)}.`,
    `Its values are ${enumeration.values.join(', ')}.`,
  );
  return undefined;
}

function play(column: Column, trace: Trace, port: OutputPort, builder: PlanBuilder): void {
  const sloping = column.between === 'straight' && (port.type === 'LREAL' || port.type === 'REAL');
  const input = builder.parts.inputs.push({
    name: port.name,
    slot: port.slot,
    base: builder.hidden(`${port.name} base`, column.data[0] ?? 0),
    ...(sloping ? { slope: builder.hidden(`${port.name} slope`), since: builder.hidden(`${port.name} since`) } : {}),
  });
  builder.parts.logged.push(port.slot);
  // One by one: of a long recording more rows come than a call can take.
  for (const change of columnCourse(column, trace, input - 1, sloping)) builder.parts.played.push(change);
}

const read = new Recent<ReturnType<typeof readRecording>>(10_000_000);

/** Recordings are long: each text is read once. */
function traceOf(text: string): ReturnType<typeof readRecording> {
  const known = read.get(text) ?? readRecording(text);
  read.set(text, known);
  return known;
}

/** Rows as changes; missing values are passed over, of rows at one time the last counts. Times are rounded to whole nanoseconds. */
export function columnCourse({ base, data }: Column, trace: Trace, input: number, sloping: boolean): InputChange[] {
  const time = trace.bases[base] as Float64Array;
  const rows = [...data.keys()].filter((row) => Number.isFinite(data[row]));
  return rows.map((row, index): InputChange => {
    const [from, value] = [time[row] as number, data[row] as number];
    const next = rows[index + 1];
    const slope =
      sloping && next !== undefined && (time[next] as number) > from ? ((data[next] as number) - value) / ((time[next] as number) - from) : 0;
    return { atNs: Math.round(Math.max(0, from) * 1e9), input, value, slope };
  });
}
