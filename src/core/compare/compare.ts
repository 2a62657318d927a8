import type { Trace } from '@/core/trace';
import { figure, timeWords } from '@/core/wording';
import { agreementOf, type Span } from './agreement';
import { averaged, unwrapped } from './averaged';
import { type Delay, delayBetween } from './delay';
import { type Band, fitOf, gapOf, leftWithout, lineOf, type Moments, momentsOf, rmsOf } from './figures';
import { type Signal, shifted, signalOf, valueAt } from './pieces';
import { trendOf } from './trend';

export interface CompareSettings extends Band {
  /** Ripple shorter than this (s) is averaged out of both; 0 for none. */
  readonly ripple: number;
  /** A full turn of each angle, by the signal's name. */
  readonly turns: Readonly<Record<string, number>>;
}

/** What tells two signals apart, in one word; `shape` where no simple one does. */
export type Kind = 'equal' | 'delay' | 'offset' | 'gain' | 'shape';

export interface SignalComparison {
  readonly name: string;
  readonly unit: string;
  /** Never outside its band. */
  readonly agrees: boolean;
  /** First instant outside the band. */
  readonly parts?: number;
  /** The longest span of values inside which it stays in its band. */
  readonly between?: Span;
  readonly largest: number;
  readonly largestAt: number;
  readonly rms: number;
  readonly fit: number;
  /** Share of the time in which both move the same way. */
  readonly trend: number;
  readonly kind: Kind;
  /** Time in which one of them has no value (s); nothing is said of it. */
  readonly missing: number;
  /** The second comes so much later (s), looked for at instants `delayResolution` (s) apart; is gain · the first + offset. */
  readonly delay: number;
  readonly delayResolution: number;
  readonly gain: number;
  readonly offset: number;
}

export interface TraceComparison {
  /** Where they agree and where they part. */
  readonly words: string;
  readonly from: number;
  readonly until: number;
  readonly signals: readonly SignalComparison[];
  /** Names that only one of the two has. */
  readonly onlyFirst: readonly string[];
  readonly onlySecond: readonly string[];
}

/** A single cause explains a gap if no more than this share of it is left without it. */
const leftOver = 0.1;

/**
 * Compares two traces signal by signal over the time both have: where each leaves its band, how far, and what tells them apart.
 * All figures but the delay are those of the signals between their rows as well, so that nothing is too short to be seen.
 * @returns undefined when they have no time in common
 */
export function compareTraces(first: Trace, second: Trace, settings: CompareSettings): TraceComparison | undefined {
  const [from, until] = [Math.max(first.from, second.from), Math.min(first.until, second.until)];
  if (!(until > from)) return undefined;
  const others = new Map(second.columns.map((column) => [column.name, column]));
  const common = first.columns.filter((column) => others.has(column.name));
  const signals = common.map((column) => {
    const other = others.get(column.name) ?? column;
    return compareSignals(column, signalOf(column, first), signalOf(other, second), from, until, settings);
  });
  const names = new Set(first.columns.map((column) => column.name));
  return {
    words: wordsOf(signals),
    from,
    until,
    signals,
    onlyFirst: first.columns.filter((column) => !others.has(column.name)).map((column) => column.name),
    onlySecond: second.columns.filter((column) => !names.has(column.name)).map((column) => column.name),
  };
}

function compareSignals(
  { name, unit }: { readonly name: string; readonly unit: string },
  one: Signal,
  other: Signal,
  from: number,
  until: number,
  settings: CompareSettings,
): SignalComparison {
  const turn = settings.turns[name];
  const prepared = (signal: Signal): Signal => averaged(turn === undefined ? signal : unwrapped(signal, turn), settings.ripple, from, until);
  const a = prepared(one);
  const b = turn === undefined ? prepared(other) : nearestTurn(prepared(other), a, from, turn);
  const gap = gapOf(a, b, from, until, settings);
  const between = agreementOf(a, b, from, until, settings);
  const moments = momentsOf(a, b, from, until);
  const isEqual = rmsOf(moments) <= 1e-9 * Math.max(moments.size, Number.MIN_VALUE);
  const delay = gap.largest === 0 ? { seconds: 0, resolution: 0 } : delayBetween(a, b, from, until);
  return {
    name,
    unit,
    // Where nothing could be compared nothing agrees.
    agrees: gap.first === undefined && gap.compared > 0,
    ...(gap.first === undefined ? {} : { parts: gap.first }),
    ...(between ? { between } : {}),
    largest: gap.largest,
    largestAt: gap.largestAt,
    rms: rmsOf(moments),
    fit: fitOf(moments),
    trend: gap.largest === 0 ? 1 : trendOf(a, b, from, until),
    missing: Math.max(0, until - from - gap.compared),
    kind: isEqual ? 'equal' : kindOf(a, b, from, until, moments, delay),
    delay: delay.seconds,
    delayResolution: delay.resolution,
    ...lineOf(moments),
  };
}

/** An angle may begin some turns away from the other. */
function nearestTurn(signal: Signal, to: Signal, from: number, turn: number): Signal {
  const turns = Math.round((valueAt(signal, from) - valueAt(to, from)) / turn) || 0;
  return { ...signal, data: signal.data.map((value) => value - turns * turn) };
}

/** Tries the simple causes one by one: without the right one nearly nothing of the gap is left. */
function kindOf(a: Signal, b: Signal, from: number, until: number, moments: Moments, { seconds }: Delay): Kind {
  const whole = rmsOf(moments);
  const { offset, gain } = leftWithout(moments);
  const back = seconds === 0 ? whole : rmsOf(momentsOf(a, shifted(b, -seconds), Math.max(from, from - seconds), Math.min(until, until - seconds)));
  const causes: readonly (readonly [Kind, number])[] = [
    ['offset', offset],
    ['gain', gain],
    ['delay', back],
  ];
  const [kind, left] = causes.reduce((best, one) => (one[1] < best[1] ? one : best));
  return left <= leftOver * whole ? kind : 'shape';
}

function wordsOf(signals: readonly SignalComparison[]): string {
  const apart = signals.filter((one) => !one.agrees).sort((x, y) => (x.parts ?? 0) - (y.parts ?? 0));
  const [first] = apart;
  if (signals.length === 0) return 'The two have no signal in common.';
  if (!first) return signals.length === 1 ? 'They agree on the one signal they have in common.' : `They agree on all ${signals.length} signals.`;
  if (first.parts === undefined) return `${first.name} cannot be compared: one of the two has no value at any time.`;
  const head =
    apart.length === signals.length ? 'They agree on no signal' : `They agree on ${signals.length - apart.length} of ${signals.length} signals`;
  return `${head}, and first diverge at ${timeWords(first.parts)} in ${first.name}: ${causeOf(first)}.`;
}

function causeOf({ kind, delay, delayResolution, offset, gain, unit, largest, largestAt }: SignalComparison): string {
  const withUnit = (value: number): string => `${figure(value, 4)}${unit === '' ? '' : ` ${unit}`}`;
  switch (kind) {
    case 'delay':
      return `the second comes ${timeWords(rounded(Math.abs(delay)))} ${delay > 0 ? 'later' : 'earlier'}, to within ${timeWords(rounded(delayResolution))}`;
    case 'offset':
      return `the second lies ${withUnit(Math.abs(largest))} ${offset > 0 ? 'higher' : 'lower'} throughout`;
    case 'gain':
      return `the second is ${figure(gain, 4)} times the first`;
    case 'equal':
    case 'shape':
      return `they differ by up to ${withUnit(largest)} at ${timeWords(largestAt)}`;
  }
}

function rounded(value: number): number {
  return Number(value.toPrecision(3));
}
