import { describe, expect, it } from 'vitest';
import { signalsOf } from '@/core/criteria';
import { boundariesOf, boundBoundaries, offOf } from '@/core/design';
import { Stream, seedOfStream } from '@/core/numeric';
import { recordedTrace } from '../support/trace';

const sides = ['below', 'at', 'above'] as const;

/** Which sides of a limit of 5 a list of values turns on, from the definition: of each run of neighbours that are not below 5 − near, where its greatest lies; one that comes with the very last value says nothing. */
function turnsIn(values: readonly number[], isWithin: (row: number) => boolean, near: number): string[] {
  const found = new Set<string>();
  let group: number[] = [];
  const close = (): void => {
    const most = Math.max(...group.map((row) => values[row]!));
    const first = group.find((row) => values[row] === most);
    if (group.length > 0 && first !== values.length - 1) {
      if (most < 5) found.add('below');
      else if (most === 5) found.add('at');
      else if (most <= 5 + near) found.add('above');
    }
    group = [];
  };
  values.forEach((value, row) => {
    if (value >= 5 - near && isWithin(row)) group.push(row);
    else close();
  });
  close();
  return sides.filter((side) => found.has(side));
}

/** Of which a run is found to be on, and how far it is from the others. */
function told(
  sentence: string,
  values: readonly number[],
  within: readonly number[],
  between: 'held' | 'straight',
): { found: string[]; off: number[] } {
  const { trace, catalogue } = recordedTrace({ x: ['LREAL', values], w: ['BOOL', within], p: ['BOOL', within] }, 1, between);
  const all = boundBoundaries(sentence, catalogue, { slots: trace.columns, tasks: [] }).filter(({ k }) => k === 'turns');
  const offs = all.map((one) => offOf(one, signalsOf(trace), [])?.measure ?? Number.POSITIVE_INFINITY);
  return { found: sides.filter((_, index) => offs[index] === 0), off: offs };
}

describe('where a quantity turns at a limit', () => {
  // 1 % of what counts as far, here the limit itself.
  const near = 0.05;
  const values = (stream: Stream): number[] =>
    Array.from({ length: 12 }, () => [4, 4.9, 4.96, 4.99, 5, 5.01, 5.05, 5.06, 7][Math.floor(9 * stream.next())]!);

  it('is what the definition says, for values that are held, within a condition', () => {
    for (let seed = 0; seed < 300; seed += 1) {
      const stream = new Stream(seedOfStream(seed, 0));
      const [x, w] = [values(stream), Array.from({ length: 12 }, () => (stream.next() < 0.7 ? 1 : 0))];
      expect(told('while x >= 5 AND w, p', x, w, 'held').found, `seed ${seed}`).toEqual(turnsIn(x, (row) => w[row] === 1, near));
    }
  });

  it('and for straight lines between values', () => {
    for (let seed = 0; seed < 300; seed += 1) {
      const stream = new Stream(seedOfStream(seed, 1));
      const x = values(stream);
      expect(
        told(
          'while x >= 5, p',
          x,
          x.map(() => 1),
          'straight',
        ).found,
        `seed ${seed}`,
      ).toEqual(turnsIn(x, () => true, near));
    }
  });

  it('is further away the further its greatest value is', () => {
    const peak = (most: number): number[] => told('while x >= 5, p', [4, most, 4], [1, 1, 1], 'straight').off;
    for (const index of [0, 1, 2]) {
      expect(peak(6)[index]).toBeLessThan(peak(7)[index]!);
      expect(peak(4.5)[index]).toBeLessThan(peak(4.2)[index]!);
    }
  });
});

describe('borders of a sentence', () => {
  const keys = (sentence: string): string[] => boundariesOf(sentence).map(({ key }) => key);

  it('has none where it is owed in every run, or speaks of figures', () => {
    for (const sentence of ['always x <= 5', 'never a AND b', 'overshoot of y to r <= 5 %', 'no sentence at all']) expect(keys(sentence)).toEqual([]);
  });

  it('sees through NOT, ranges and the two ways of writing while', () => {
    expect(keys('when a falls while NOT (b OR c), p')).toEqual(['without NOT b', 'without NOT c']);
    expect(keys('always NOT (x > 3) OR p')).toEqual(keys('while x > 3, p'));
    expect(keys('when NOT (a AND b) rises, p')).toEqual(['comes as NOT a AND b', 'comes as NOT b AND a']);
  });

  it('keeps the key of a border when something else of the sentence changes', () => {
    expect(keys('when x crosses 3 upward, within 2 s p').slice(0, 3)).toEqual(keys('when x crosses 3 upward, within 5 s q').slice(0, 3));
  });

  it('of four events in order, asks for those with two neighbours swapped', () => {
    expect(keys('sequence a rises then b rises then c rises then d rises')).toHaveLength(3);
  });
});
