import type { Column, Trace } from '../trace';
import { agreementOf, type Span } from './agreement';
import { delayOf, fitOf, lineOf, rmsOf, trendOf } from './figures';
import { type Curve, curveOf, sampled, smoothed, unwrapped } from './sample';

/** How far two signals may lie apart: absolute + relative · |first|. */
export interface Band {
  readonly absolute: number;
  readonly relative: number;
}

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
  /** The second comes so much later (s); is gain · the first + offset. */
  readonly delay: number;
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

const samples = 2049;
/** A single cause explains a gap if no more than this share of it is left without it. */
const leftOver = 0.1;
/** Slopes are looked at without what wiggles within a hundredth of the run. */
const calm = Math.round(samples / 200);

/**
 * Compares two traces signal by signal over the time both have: where each leaves its band, how far, and what tells them apart.
 * @returns undefined when they have no time in common
 */
export function compareTraces(first: Trace, second: Trace, settings: CompareSettings): TraceComparison | undefined {
  const [from, until] = [Math.max(first.from, second.from), Math.min(first.until, second.until)];
  if (!(until > from)) return undefined;
  const others = new Map(second.columns.map((column) => [column.name, column]));
  const common = first.columns.filter((column) => others.has(column.name));
  const signals = common.map((column) => {
    const other = others.get(column.name) as Column;
    return compareSignals(column, curveOf(column, first), curveOf(other, second), from, until, settings);
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

function compareSignals(column: Column, one: Curve, other: Curve, from: number, until: number, settings: CompareSettings): SignalComparison {
  const step = (until - from) / (samples - 1);
  const half = Math.round(settings.ripple / step / 2);
  const turn = settings.turns[column.name];
  const prepared = (curve: Curve): Float64Array => {
    const values = sampled(curve, from, until, samples);
    return smoothed(turn === undefined ? values : unwrapped(values, turn), half);
  };
  const a = prepared(one);
  const b = turn === undefined ? prepared(other) : nearestTurn(prepared(other), a, turn);
  const gap = gapOf(a, b, settings);
  const isApart = (index: number): boolean =>
    Math.abs((b[index] as number) - (a[index] as number)) > settings.absolute + settings.relative * Math.abs(a[index] as number);
  const between = agreementOf(a, isApart);
  const shift = delayOf(a, b);
  const line = lineOf(a, b);
  return {
    name: column.name,
    unit: column.unit,
    agrees: gap.first === undefined,
    ...(gap.first === undefined ? {} : { parts: from + gap.first * step }),
    ...(between ? { between } : {}),
    largest: gap.largest,
    largestAt: from + gap.at * step,
    rms: rmsOf(a, b),
    fit: fitOf(a, b),
    trend: trendOf(smoothed(a, calm), smoothed(b, calm)),
    kind: kindOf(a, b, shift),
    delay: shift * step,
    ...line,
  };
}

function gapOf(
  a: Float64Array,
  b: Float64Array,
  { absolute, relative }: Band,
): { readonly first?: number; readonly largest: number; readonly at: number } {
  let [first, largest, at] = [-1, 0, 0];
  a.forEach((value, index) => {
    const gap = Math.abs((b[index] as number) - value);
    if (gap > largest) [largest, at] = [gap, index];
    if (first < 0 && gap > absolute + relative * Math.abs(value)) first = index;
  });
  return { ...(first < 0 ? {} : { first }), largest, at };
}

/** An angle may begin some turns away from the other. */
function nearestTurn(values: Float64Array, to: Float64Array, turn: number): Float64Array {
  const turns = Math.round(((values[0] as number) - (to[0] as number)) / turn);
  return values.map((value) => value - turns * turn);
}

/** Tries the simple causes one by one: without the right one nearly nothing of the gap is left. */
function kindOf(a: Float64Array, b: Float64Array, shift: number): Kind {
  const whole = rmsOf(a, b);
  const size = Math.max(...a.map(Math.abs), ...b.map(Math.abs), Number.MIN_VALUE);
  if (whole <= 1e-9 * size) return 'equal';
  const mean = b.reduce((sum, value, index) => sum + value - (a[index] as number), 0) / a.length;
  const scale =
    a.reduce((sum, value, index) => sum + value * (b[index] as number), 0) / a.reduce((sum, value) => sum + value * value, Number.MIN_VALUE);
  const causes: readonly (readonly [Kind, number])[] = [
    [
      'offset',
      rmsOf(
        a.map((value) => value + mean),
        b,
      ),
    ],
    [
      'gain',
      rmsOf(
        a.map((value) => value * scale),
        b,
      ),
    ],
    ['delay', shift === 0 ? whole : delayed(a, b, shift)],
  ];
  const [kind, left] = causes.reduce((best, one) => (one[1] < best[1] ? one : best));
  return left <= leftOver * whole ? kind : 'shape';
}

/** Root mean square of what is left once the second is moved back. */
function delayed(a: Float64Array, b: Float64Array, shift: number): number {
  const at = (index: number): number => {
    const low = Math.floor(index);
    const next = Math.min(low + 1, b.length - 1);
    return (b[low] as number) + (index - low) * ((b[next] as number) - (b[low] as number));
  };
  const [first, end] = [Math.max(0, Math.ceil(-shift)), Math.min(a.length, Math.floor(b.length - 1 - shift))];
  const part = a.subarray(first, end);
  return rmsOf(
    part,
    Float64Array.from(part, (_, index) => at(first + index + shift)),
  );
}

function wordsOf(signals: readonly SignalComparison[]): string {
  const apart = signals.filter((one) => !one.agrees).sort((x, y) => (x.parts ?? 0) - (y.parts ?? 0));
  const [first] = apart;
  if (signals.length === 0) return 'The two have no signal in common.';
  if (!first) return signals.length === 1 ? 'They agree in the one signal they have in common.' : `They agree in all ${signals.length} signals.`;
  const head =
    apart.length === signals.length ? 'They agree in no signal' : `They agree in ${signals.length - apart.length} of ${signals.length} signals`;
  return `${head}, and part first at ${rounded(first.parts ?? 0)} s in ${first.name}: ${causeOf(first)}.`;
}

function causeOf({ kind, delay, offset, gain, unit, largest, largestAt }: SignalComparison): string {
  const withUnit = (value: number): string => `${rounded(value)}${unit === '' ? '' : ` ${unit}`}`;
  switch (kind) {
    case 'delay':
      return `the second comes ${rounded(Math.abs(delay))} s ${delay > 0 ? 'later' : 'earlier'}`;
    case 'offset':
      return `the second lies ${withUnit(Math.abs(largest))} ${offset > 0 ? 'higher' : 'lower'} throughout`;
    case 'gain':
      return `the second is ${rounded(gain)} times the first`;
    default:
      return `they run apart, by up to ${withUnit(largest)} at ${rounded(largestAt)} s`;
  }
}

function rounded(value: number): string {
  return String(Number(value.toPrecision(4)));
}
