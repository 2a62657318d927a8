import { criterionSlots } from '@/core/criteria';
import { numberOfValue, typeWords } from '@/core/formula';
import { nameKey } from '@/core/language';
import type { AssembledLoop, CatalogueEntry } from '@/core/loop';
import { integerRange, type SlotNumber } from '@/core/plan';
import { type Column, stateMarks, type Trace } from '@/core/trace';
import { converted, inUnit, sameUnit } from '@/core/units';
import type { CheckedProject } from './check';
import { type CriterionResult, judgeOutcome, type RunOrder } from './run';

/** What the accepted criteria of a project find in a recording of one of its loops. */
export interface RecordedFindings {
  readonly loop: string;
  readonly results: readonly CriterionResult[];
  /** Criteria that were not judged, and the signals they need that are not recorded. */
  readonly unseen: readonly { readonly requirement: string; readonly name: string; readonly missing: readonly string[] }[];
  /** Columns that are no signal of the loop. */
  readonly unknown: readonly string[];
  /** Columns that were converted to the unit of their signal. */
  readonly converted: readonly { readonly column: string; readonly from: string; readonly to: string }[];
}

/**
 * Judges a recorded trace by the accepted criteria of a project, in the names, units and types of one of its loops.
 * @param loopName the loop that was recorded; the one that knows most of the columns unless it is given
 * @returns a sentence for each thing that keeps the recording from being judged
 */
export function judgeRecording(
  project: CheckedProject,
  trace: Trace,
  loopName?: string,
): RecordedFindings | { readonly problems: readonly string[] } {
  const chosen = chosenLoop(project, trace, loopName);
  if (typeof chosen === 'string') return { problems: [chosen] };
  const [key, loop] = chosen;
  const columns = trace.columns.map((column) => asSignal(column, loop));
  const problems = columns.flatMap((one) => ('problem' in one ? [one.problem] : []));
  if (problems.length > 0) return { problems };
  const known = columns.flatMap((one) => ('signal' in one ? [one] : []));
  const signals = known.map(({ signal }) => signal);
  const recorded = new Set(signals.map(({ slot }) => slot));
  const watched: RunOrder['watched'] = project.criteria.flatMap(({ requirement, name, acceptedBy, inLoop }) => {
    const criterion = acceptedBy === undefined ? undefined : inLoop.get(key);
    return criterion ? [{ requirement, name, criterion }] : [];
  });
  const missingOf = ({ criterion }: RunOrder['watched'][number]): string[] =>
    criterionSlots(criterion)
      .filter((slot) => !recorded.has(slot) && !isParameter(loop, slot))
      .map((slot) => loop.plan.slots[slot]?.name ?? '');
  const seen = watched.filter((one) => missingOf(one).length === 0);
  const slots = loop.plan.slots.map(({ start }) => start);
  const regions = new Map(loop.plan.regions.map((region) => [region.slot, region.states]));
  const marks = stateMarks(
    signals.filter(({ slot }) => regions.has(slot)),
    trace.bases,
    ({ slot }, state) => regions.get(slot)?.[state - 1]?.mark,
  );
  return {
    loop: loop.plan.loop,
    results: judgeOutcome(seen, { trace: { ...trace, columns: signals, marks }, slots: Float64Array.from(slots) }),
    unseen: watched.flatMap((one) => {
      const missing = missingOf(one);
      return missing.length > 0 ? [{ requirement: one.requirement, name: one.name, missing }] : [];
    }),
    unknown: trace.columns.filter((_, index) => 'unknown' in (columns[index] ?? {})).map(({ name }) => name),
    converted: known.flatMap(({ from, signal }) => (from.unit === signal.unit ? [] : [{ column: from.name, from: from.unit, to: signal.unit }])),
  };
}

/** The loop by its name, or the one that knows most of the columns; a sentence where there is none, or more than one. */
function chosenLoop({ loops }: CheckedProject, trace: Trace, name: string | undefined): readonly [string, AssembledLoop] | string {
  const names = [...loops.values()].map(({ plan }) => plan.loop).join(', ');
  if (name !== undefined) {
    const loop = loops.get(nameKey(name));
    return loop ? [nameKey(name), loop] : `There is no loop "${name}". The loops are: ${names}.`;
  }
  const counted = [...loops].map((entry) => ({ entry, known: trace.columns.filter((column) => entryOf(column, entry[1])).length }));
  const most = Math.max(0, ...counted.map(({ known }) => known));
  if (most === 0) return `No loop of the project has a signal of a recorded name: ${trace.columns.map((column) => column.name).join(', ')}.`;
  const best = counted.filter(({ known }) => known === most).map(({ entry }) => entry);
  // A variant has the names of its loop.
  const own = best.filter(([key]) => !key.includes('/'));
  const [first, second] = own.length > 0 ? own : best;
  if (!first || second) return `Several loops know these columns: ${best.map(([, { plan }]) => plan.loop).join(', ')}. Say which one was recorded.`;
  return first;
}

function entryOf({ name }: Column, { catalogue }: AssembledLoop): CatalogueEntry | undefined {
  const found = catalogue.find(name.split('.'));
  const slot = typeof found === 'object' && found.node.k === 'slot' ? found.node.slot : undefined;
  return catalogue.entries.find((entry) => entry.slot === slot);
}

function isParameter({ catalogue }: AssembledLoop, slot: SlotNumber): boolean {
  return catalogue.entries.some((entry) => entry.slot === slot && entry.role === 'parameter');
}

/** A recorded column as the signal of the loop that it is: in its type and unit. */
function asSignal(
  column: Column,
  loop: AssembledLoop,
): { readonly from: Column; readonly signal: Column } | { readonly unknown: true } | { readonly problem: string } {
  const entry = entryOf(column, loop);
  if (!entry) return { unknown: true };
  const { name, slot, type, unit, min, max, enumeration } = entry;
  const region = loop.plan.regions.find((one) => one.slot === slot);
  const names = region ? ['', ...region.states.map((state) => state.name)] : enumeration?.values;
  const number = numbersOf(column, entry, region ? { name: region.name, values: names ?? [] } : enumeration);
  if (typeof number === 'string') return { problem: `${column.name}: ${number}.` };
  const data = column.data.map((value) => (Number.isNaN(value) ? value : number(value)));
  const odd = data.findIndex((value, row) => Number.isNaN(value) && !Number.isNaN(column.data[row] as number));
  if (odd >= 0) {
    const value = column.labels?.[column.data[odd] as number] || column.data[odd];
    return {
      problem: `${column.name}: ${value} in row ${odd + 1} is no value of ${name}, which is ${enumeration ? typeWords(enumeration) : region ? 'a state' : type}.`,
    };
  }
  const between = type === 'LREAL' || type === 'REAL' ? column.between : 'held';
  const limits = { ...(min === undefined ? {} : { min }), ...(max === undefined ? {} : { max }), ...(names ? { labels: names } : {}) };
  return { from: column, signal: { name, slot, base: column.base, between, type, unit, data, ...limits } };
}

/** What turns a recorded value into one of the signal; it gives NaN for what is none. A sentence says why nothing can. */
function numbersOf(
  column: Column,
  { type, unit: declared }: CatalogueEntry,
  names: { readonly name: string; readonly values: readonly string[] } | undefined,
): ((value: number) => number) | string {
  const { labels } = column;
  if (labels && !names) return `it has names for values, but the signal is ${type}`;
  if (names) {
    const own = labels?.map((label) => (label === '' ? names.values.indexOf('') : (numberOfValue(label, names) ?? -1)));
    return (value) => {
      const number = own ? (own[value] ?? -1) : value;
      return names.values[number] === undefined ? Number.NaN : number;
    };
  }
  if ((column.type === 'BOOL') !== (type === 'BOOL') && column.type === 'BOOL') return `it is BOOL, but the signal is ${type}`;
  if (type === 'BOOL') return (value) => (value === 0 || value === 1 ? value : Number.NaN);
  // A TIME is kept in whole nanoseconds.
  const unit = type === 'TIME' ? 'ns' : declared;
  if (!sameUnit(column.unit, unit) && converted(1, column.unit, unit) === undefined)
    return `the column ${inUnit(column.unit)}, but the signal ${inUnit(unit)}`;
  const value = (one: number): number => (sameUnit(column.unit, unit) ? one : (converted(one, column.unit, unit) ?? Number.NaN));
  if (type === 'TIME') return (one) => Math.round(value(one));
  return integerRange[type] ? (one) => (Number.isInteger(value(one)) ? value(one) : Number.NaN) : value;
}
