import type { Faults } from '@/core/fault';
import type { PlanBuilder } from '@/core/formula';
import { nameKey, nearestName } from '@/core/language';
import { Recent } from '@/core/memory';
import type { InputChange } from '@/core/plan';
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
  const trace = recordedTrace(instance, behaviour, recordings, faults);
  if (!trace) return;
  for (const [key, port] of instance.outputs) {
    const column = columnFor(instance, key, port, behaviour, trace, faults);
    if (column) play(column, trace, port, builder);
  }
}

function recordedTrace({ component }: Instance, { file }: RawRecording, recordings: ReadonlyMap<string, string>, faults: Faults): Trace | undefined {
  const text = recordings.get(file);
  if (text === undefined) {
    const near = nearestName(file, recordings.keys());
    faults.add(
      'unknown-name',
      component.document.place(['behaviour', 'file']),
      `There is no recording "${file}".`,
      near ? `Did you mean "${near}"?` : 'Put the file under recordings/.',
    );
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

/** The column an output follows, which has to be of its unit and kind. */
function columnFor(instance: Instance, key: string, port: OutputPort, behaviour: RawRecording, trace: Trace, faults: Faults): Column | undefined {
  const name = port.name.slice(instance.name.length + 1);
  const wanted = Object.entries(behaviour.outputs ?? {}).find(([one]) => nameKey(one) === key)?.[1] ?? name;
  const column = trace.columns.find((one) => nameKey(one.name) === nameKey(wanted));
  const at = instance.component.document.place(['behaviour', 'outputs', name]);
  if (!column) {
    const near = nearestName(
      wanted,
      trace.columns.map((one) => one.name),
    );
    faults.add('unknown-name', at, `The recording has no column "${wanted}".`, near ? `Did you mean "${near}"?` : 'Name one of its columns.');
    return undefined;
  }
  if (!sameUnit(column.unit, port.unit))
    faults.add('unit', at, `The column ${column.name} ${inUnit(column.unit)}, but ${port.name} ${inUnit(port.unit)}.`, 'Change one of the units.');
  if ((column.type === 'BOOL') !== (port.type === 'BOOL'))
    faults.add('type', at, `The column ${column.name} is ${column.type}, but ${port.name} is ${port.type}.`, 'Change the type of the output.');
  return column;
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
  for (const change of course(column, trace, input - 1, sloping)) builder.parts.played.push(change);
}

const read = new Recent<ReturnType<typeof readRecording>>(10_000_000);

/** Recordings are long: each text is read once. */
function traceOf(text: string): ReturnType<typeof readRecording> {
  const known = read.get(text) ?? readRecording(text);
  read.set(text, known);
  return known;
}

/** Rows as changes; missing values are passed over, of rows at one time the last counts. Times are rounded to whole nanoseconds. */
function course({ data }: Column, trace: Trace, input: number, sloping: boolean): InputChange[] {
  const time = trace.bases[0] as Float64Array;
  const rows = [...data.keys()].filter((row) => Number.isFinite(data[row]));
  return rows.map((row, index): InputChange => {
    const [from, value] = [time[row] as number, data[row] as number];
    const next = rows[index + 1];
    const slope =
      sloping && next !== undefined && (time[next] as number) > from ? ((data[next] as number) - value) / ((time[next] as number) - from) : 0;
    return { atNs: Math.round(Math.max(0, from) * 1e9), input, value, slope };
  });
}
