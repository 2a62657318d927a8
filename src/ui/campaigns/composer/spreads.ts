import type { Variable } from '@/core/campaign';
import type { RawSpread } from '@/core/shapes';
import { figure } from '@/core/wording';

/** Ways to vary, with the words for them. */
export const spreadWords = {
  from: 'even steps',
  list: 'listed values',
  uniform: 'anything between',
  normal: 'normal',
  triangular: 'triangular',
  lognormal: 'lognormal',
} as const;
export type SpreadKind = keyof typeof spreadWords;

export const spreadKinds = Object.keys(spreadWords) as readonly SpreadKind[];

export function kindOf(spread: RawSpread): SpreadKind {
  return spreadKinds.find((kind) => kind in spread) ?? 'list';
}

/** How far a number is varied at first where nothing else is said. */
const firstReach = 0.2;

/** A spread to begin with: about the value as it is, within the limits. */
export function firstSpread(kind: SpreadKind, { value = 0, min, max }: Variable): RawSpread {
  const reach = Math.abs(value) * firstReach || (max !== undefined && min !== undefined ? max - min : 1);
  const low = rounded(Math.max(min ?? Number.NEGATIVE_INFINITY, value - (value === 0 && min === 0 ? 0 : reach)));
  const high = rounded(Math.min(max ?? Number.POSITIVE_INFINITY, value + reach));
  const middle = rounded(value === 0 ? (low + high) / 2 : value);
  switch (kind) {
    case 'from':
      return { from: low, until: high, steps: 5 };
    case 'list':
      return { list: [low, middle, high] };
    case 'uniform':
      return { uniform: [low, high] };
    case 'normal':
      return { normal: { mean: middle, deviation: rounded(reach / 4) }, within: [low, high] };
    case 'triangular':
      return { triangular: { low, mode: middle, high } };
    case 'lognormal':
      return { lognormal: { median: Math.abs(middle) || 1, deviation: 0.1 } };
  }
}

function rounded(value: number): number {
  return Number(value.toPrecision(3));
}

/** One number of a spread: where it stands in the document, and what it is called. */
export interface SpreadNumber {
  readonly label: string;
  readonly path: readonly (string | number)[];
  readonly value: number;
  /** It has the unit of the quantity. */
  readonly hasUnit: boolean;
}

/** The numbers of a spread that a form asks for; of a list none, for its values are written together. */
export function numbersOf(spread: RawSpread): SpreadNumber[] {
  const one = (label: string, path: readonly (string | number)[], value: number, hasUnit = true): SpreadNumber => ({ label, path, value, hasUnit });
  if ('from' in spread) return [one('from', ['from'], spread.from), one('to', ['until'], spread.until), one('steps', ['steps'], spread.steps, false)];
  if ('uniform' in spread) return [one('from', ['uniform', 0], spread.uniform[0]), one('to', ['uniform', 1], spread.uniform[1])];
  if ('normal' in spread)
    return [
      one('mean', ['normal', 'mean'], spread.normal.mean),
      one('deviation', ['normal', 'deviation'], spread.normal.deviation),
      ...(spread.within ? [one('not below', ['within', 0], spread.within[0]), one('not above', ['within', 1], spread.within[1])] : []),
    ];
  if ('triangular' in spread) {
    const { low, mode, high } = spread.triangular;
    return [one('from', ['triangular', 'low'], low), one('most likely', ['triangular', 'mode'], mode), one('to', ['triangular', 'high'], high)];
  }
  if ('lognormal' in spread)
    return [
      one('median', ['lognormal', 'median'], spread.lognormal.median),
      one('deviation of the logarithm', ['lognormal', 'deviation'], spread.lognormal.deviation, false),
    ];
  return [];
}

/** A list of values as it is typed: numbers, TRUE and FALSE, or words. */
export function listOf(text: string): (number | boolean | string)[] {
  return text
    .split(/[;,]\s*/)
    .map((one) => one.trim())
    .filter((one) => one !== '')
    .map((one) => {
      if (/^(true|false)$/i.test(one)) return one.toLowerCase() === 'true';
      return Number.isFinite(Number(one)) ? Number(one) : one;
    });
}

/** `0 … 0.3 m` */
export function limitsWords({ min, max, unit }: Variable): string {
  if (min === undefined && max === undefined) return unit;
  return `${min === undefined ? '' : figure(min)} … ${max === undefined ? '' : figure(max)} ${unit}`.trim();
}
