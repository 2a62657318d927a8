import { figure, timeWords } from '@/core/wording';
import type { Missing, Nearness } from './situation';

/**
 * How near a run came to a situation, in words: `nearest at 42.3 s: "upper_wanted" was TRUE 3.4 s later`.
 * @returns nothing where nothing was missing that would have to be waited for
 */
export function missedWords({ places, missing }: Nearness): string | undefined {
  const bound = missing.filter(({ literal }) => !literal.isFree);
  if (bound.length === 0) return undefined;
  const parts = bound.map(wordsOf).join('; ');
  // Where nothing was ever so, no instant is nearer than another.
  return bound.every(({ apart, short }) => apart === undefined && short === undefined)
    ? parts
    : `nearest at ${timeWords(tenths(places[0]?.at ?? 0))}: ${parts}`;
}

function wordsOf({ literal, apart, short }: Missing): string {
  switch (literal.k) {
    case 'lasted':
      if (short === undefined) return stateWords(literal.state, true, undefined);
      return `${literal.state} had been active for ${timeWords(tenths(literal.seconds - short))} of ${timeWords(literal.seconds)}`;
    case 'sent':
      return apart === undefined ? `${literal.text} was never sent` : `${literal.text} was sent ${when(apart)}`;
    case 'bound': {
      if (apart !== undefined) return `"${literal.text}" was as it should be ${when(apart)}`;
      if (short === undefined || Number.isNaN(short)) return `"${literal.text}" was never as it should be`;
      return `"${literal.text}" was ${figure(short, 3)}${literal.unit ? ` ${literal.unit}` : ''} short at best`;
    }
    case 'truth': {
      const { state, value, text } = literal;
      if (state !== undefined) return stateWords(state, value, apart);
      const truth = value ? 'TRUE' : 'FALSE';
      return apart === undefined ? `"${text}" was never ${truth}` : `"${text}" was ${truth} ${when(apart)}`;
    }
  }
}

function stateWords(state: string, isActive: boolean, apart: number | undefined): string {
  if (apart === undefined) return isActive ? `${state} was never active` : `${state} was always active`;
  return `${state} was ${isActive ? '' : 'not '}active ${when(apart)}`;
}

function when(apart: number): string {
  return `${timeWords(tenths(Math.abs(apart)))} ${apart < 0 ? 'earlier' : 'later'}`;
}

/** To a tenth of a second: how near it was is all that is asked. */
function tenths(seconds: number): number {
  return Math.max(0.1, Math.round(10 * seconds) / 10);
}
