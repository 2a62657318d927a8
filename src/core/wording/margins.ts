import { figure } from './numbers';
import { timeWords } from './times';

/** How far from a limit, in the unit of the limit. */
export interface Distance {
  readonly value: number;
  readonly unit: string;
  /** The true distance is at least so much. */
  readonly atLeast?: boolean;
}

/**
 * A margin in words, with four digits that matter; one in seconds as a time: `+0.021 m`, `−40 %`, `≥ +2 h 5 min`.
 * @returns zero has no sign
 */
export function marginWords(margin: Distance): string {
  const words = sizeWords(margin);
  const sign = /^0(?: |$)/.test(words) ? '' : margin.value < 0 ? '−' : '+';
  return `${margin.atLeast ? '≥ ' : ''}${sign}${words}`;
}

/** By how much a limit was broken: `40 %`, `at least 2 h 5 min`. */
export function shortfallWords(margin: Distance): string {
  return `${margin.atLeast ? 'at least ' : ''}${sizeWords(margin)}`;
}

function sizeWords({ value, unit }: Distance): string {
  const size = Math.abs(value);
  return unit === 's' ? timeWords(size) : `${figure(size, 4)} ${unit}`.trim();
}
