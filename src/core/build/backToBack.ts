import { type Band, gapOf, signalOf, valueAt } from '@/core/compare';
import type { BackToBack, Parting } from '@/core/evidence';
import { type Experiment, type Host, simulate } from '@/core/simulate';
import type { Column, Trace } from '@/core/trace';
import { timeWords } from '@/core/wording';
import { possibleCauses } from './causes';
import { hostedExperiment } from './hosting';
import type { PlannedBuild } from './plannedBuild';

/** What may differ where nothing is said: nothing with 64 bits; with 32, what rounding brings about. */
export function usualTolerance(width: PlannedBuild['width']): Band {
  return width === 64 ? { absolute: 0, relative: 0 } : { absolute: 1e-6, relative: 1e-5 };
}

/** Causes that are tried: each is a run. */
const mostTried = 40;

/**
 * Compares a run of code with one of its model, and looks for what tells them apart: what could be the cause is put into the model, and is the cause if the model then does what the code did.
 * @param experiment of the model
 * @param tolerances by the key of a signal's name; `usual` for all others
 * @param units makes the hosts of the plan's co-simulation units anew, for each run that is tried
 */
export function backToBack(
  experiment: Experiment,
  build: PlannedBuild,
  model: Trace,
  code: Trace,
  tolerances: ReadonlyMap<string, number>,
  usual: Band,
  units: () => readonly Host[] = () => [],
): BackToBack {
  const tolerance = (name: string): Band => {
    const own = tolerances.get(name.toLowerCase());
    return own === undefined ? usual : { absolute: own, relative: 0 };
  };
  const own = new Set(build.plan.slots.map(({ name }) => name));
  const isOwn = ({ signal }: Parting): boolean => own.has(signal);
  // Where all part at once, it is the code that began.
  const parted = partings(model, code, tolerance).sort((a, b) => a.at - b.at || Number(isOwn(b)) - Number(isOwn(a)));
  const [first] = parted;
  if (!first) {
    const isExact = model.columns.every((column) => code.columns.some((one) => one.name === column.name && sameColumn(column, model, one, code)));
    return { words: isExact ? 'Model and code agree in every bit.' : 'Model and code agree within their tolerances.', isExact, parted, tried: [] };
  }
  const { cause, tried } = causeOf(experiment, build, code, parted, tolerance, units);
  return { words: partWords(first, parted.length, cause, tried.length), isExact: false, parted, ...(cause === undefined ? {} : { cause }), tried };
}

/** @returns the signals that leave their tolerance */
function partings(model: Trace, code: Trace, tolerance: (name: string) => Band): Parting[] {
  const others = new Map(code.columns.map((column) => [column.name, column]));
  const [from, until] = [Math.max(model.from, code.from), Math.min(model.until, code.until)];
  return model.columns.flatMap((column): Parting[] => {
    const other = others.get(column.name);
    if (!other || sameColumn(column, model, other, code)) return [];
    const [a, b] = [signalOf(column, model), signalOf(other, code)];
    const { first, largest } = gapOf(a, b, from, until, tolerance(column.name));
    return first === undefined
      ? []
      : [{ signal: column.name, at: first, model: valueAt(a, first), code: valueAt(b, first), unit: column.unit, largest }];
  });
}

function sameColumn(one: Column, first: Trace, other: Column, second: Trace): boolean {
  const times = [first.bases[one.base], second.bases[other.base]];
  return same(times[0], times[1]) && same(one.data, other.data);
}

function same(a: Float64Array | undefined, b: Float64Array | undefined): boolean {
  return a !== undefined && b !== undefined && a.length === b.length && a.every((value, index) => Object.is(value, b[index]));
}

function causeOf(
  experiment: Experiment,
  build: PlannedBuild,
  code: Trace,
  parted: readonly Parting[],
  tolerance: (name: string) => Band,
  units: () => readonly Host[],
): { readonly cause?: string; readonly tried: readonly string[] } {
  const slots = new Map(build.plan.slots.map(({ name }, slot) => [name, slot] as const));
  const ofBuild = parted.flatMap(({ signal, at }) => {
    const slot = slots.get(signal);
    return slot === undefined ? [] : [{ slot, at }];
  });
  const firstAt = ofBuild[0]?.at ?? Number.POSITIVE_INFINITY;
  const first = ofBuild.filter(({ at }) => at <= firstAt).map(({ slot }) => slot);
  const seen = (slot: number): Float64Array | undefined => code.columns.find((column) => column.name === build.plan.slots[slot]?.name)?.data;
  const tried: string[] = [];
  for (const { words, host } of possibleCauses(build, first.slice(0, 6), seen).slice(0, mostTried)) {
    const made = host();
    const { trace, error } = simulate(hostedExperiment(experiment, [made.build]), [...units(), made.host]);
    if (!error && partings(trace, code, tolerance).length === 0) return { cause: words, tried };
    tried.push(words);
  }
  return { tried };
}

function partWords({ signal, at, model, code, unit }: Parting, count: number, cause: string | undefined, tried: number): string {
  const [ours, theirs] = toldApart(model, code).map((text) => `${text} ${unit}`.trim());
  const others = count > 1 ? `, and ${count - 1} more after it` : '';
  const why = cause === undefined ? `None of ${tried} likely causes explains it.` : `The model does the same with ${cause}.`;
  return `Model and code part at ${timeWords(at)} in ${signal} (${ours} against ${theirs})${others}. ${why}`;
}

/** Two values with as many digits as it takes to tell them apart. */
function toldApart(a: number, b: number): readonly string[] {
  for (let digits = 5; digits < 17; digits += 1) {
    const [one, other] = [a, b].map((value) => String(Number(value.toPrecision(digits))));
    if (one !== other) return [one as string, other as string];
  }
  return [String(a), String(b)];
}
