import { nameKey } from '@/core/language';
import type { Movable, Move } from './moves';
import { shiftedBy } from './waits';

/** A number of a case that may be changed a little: where it stands in the moves, and between what. */
interface Gene {
  readonly move: number;
  readonly what: 'at' | 'value' | 'until';
  readonly low: number;
  readonly high: number;
}

/** The times and values of some moves as numbers between 0 and 1, and back. */
export class Genes {
  private readonly all: readonly Gene[];

  constructor(
    private readonly moves: readonly Move[],
    movables: readonly Movable[],
    stopNs: number,
  ) {
    const named = new Map(movables.map((one) => [nameKey(one.name), one]));
    this.all = moves.flatMap(({ name, untilNs }, move): Gene[] => {
      const of = named.get(nameKey(name));
      if (!of || of.high < of.low) return [];
      const value: Gene[] =
        (of.kind === 'real' || of.kind === 'parameter') && of.high > of.low ? [{ move, what: 'value', low: of.low, high: of.high }] : [];
      if (of.kind === 'parameter') return value;
      const until: Gene[] = untilNs === undefined ? [] : [{ move, what: 'until', low: 0, high: stopNs }];
      return [{ move, what: 'at', low: 0, high: stopNs }, ...value, ...until];
    });
  }

  get values(): number[] {
    return this.all.map(({ move, what, low, high }) => (numberOf(this.moves[move] as Move, what) - low) / (high - low));
  }

  /** The moves with other numbers: times to 10 ms, values to three digits. */
  moved(values: readonly number[]): Move[] {
    const next = this.moves.map((one) => ({ ...one }));
    this.all.forEach(({ move, what, low, high }, index) => {
      const one = next[move] as { -readonly [K in keyof Move]: Move[K] };
      const value = low + (values[index] as number) * (high - low);
      if (what === 'at') next[move] = shiftedBy(one, () => fineTime(value));
      else if (what === 'until') one.untilNs = fineTime(value);
      else one.value = Math.min(high, Math.max(low, Number(value.toPrecision(3))));
    });
    return next;
  }
}

function numberOf({ atNs, untilNs = atNs, value }: Move, what: Gene['what']): number {
  return what === 'at' ? atNs : what === 'until' ? untilNs : Number(value ?? 0);
}

/** Tenths of a second would come with the hits of most tasks: how late an answer may come depends on what lies between them. */
function fineTime(ns: number): number {
  return Math.round(ns / 1e7) * 1e7;
}
