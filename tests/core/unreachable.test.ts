import { describe, expect, it } from 'vitest';
import { type Literal, unreachableBecause } from '@/core/design';
import { Stream, seedOfStream } from '@/core/numeric';
import { evaluate, holds, minus, type Node, slotValue } from '@/core/plan';

const level = (of: number, wanted: 'above' | 'below', strict: boolean): Literal => {
  const [signal, limit]: Node[] = [slotValue('LREAL', 1), { k: 'const', type: 'LREAL', value: of }];
  const distance = wanted === 'above' ? minus(signal!, limit!) : minus(limit!, signal!);
  return { k: 'bound', text: `level ${wanted} ${of}`, distance, strict, scale: 10, unit: 'm' };
};
const button = (value: boolean): Literal => ({ k: 'truth', text: 'button', node: slotValue('BOOL', 0), value });
const state = (number: number, value: boolean): Literal => ({ k: 'truth', text: `state ${number}`, node: holds(2, number), value });

/** Whether a literal is so for some values of the button, the level and the region. */
function isSo(literal: Literal, values: readonly number[]): boolean {
  const at = (node: Node): number => evaluate(node, (slot) => values[slot]!)!;
  if (literal.k === 'truth') return (at(literal.node) !== 0) === literal.value;
  if (literal.k !== 'bound') return true;
  const distance = at(literal.distance);
  return distance > 0 || (distance === 0 && !literal.strict);
}

describe('what cannot come about', () => {
  it('is told only where no values at all bring it about: held against every combination', () => {
    const levels = Array.from({ length: 21 }, (_, index) => index / 2);
    let [told, missed] = [0, 0];
    for (let seed = 0; seed < 400; seed += 1) {
      const stream = new Stream(seedOfStream(seed, 0));
      const any = (count: number): number => Math.floor(stream.next() * count);
      const literals = (): Literal[] =>
        [
          button(stream.next() < 0.5),
          button(stream.next() < 0.5),
          level(any(10), 'above', stream.next() < 0.5),
          level(any(10), 'below', stream.next() < 0.5),
          state(1 + any(3), stream.next() < 0.7),
          state(1 + any(3), stream.next() < 0.7),
        ].filter(() => stream.next() < 0.5);
      const situations = [literals(), literals()].slice(0, 1 + any(2));
      const values = [0, 1].flatMap((b) => levels.flatMap((h) => [1, 2, 3].map((s) => [b, h, s])));
      const isPossible = situations.some((one) => values.some((at) => one.every((literal) => isSo(literal, at))));
      const because = unreachableBecause(situations);
      if (because !== undefined) {
        told += 1;
        expect(isPossible, `seed ${seed}: ${because}`).toBe(false);
      } else if (!isPossible) missed += 1;
    }
    expect(told).toBeGreaterThan(50);
    // Three states of which each is ruled out are not seen through.
    expect(missed).toBeLessThan(told / 5);
  });

  it('has its reason in words', () => {
    expect(unreachableBecause([[button(true), button(false)]])).toBe('"button" would have to be TRUE and FALSE at one time');
    expect(unreachableBecause([[level(4, 'above', true), level(4, 'below', false)]])).toBe(
      '"level above 4" and "level below 4" would have to be so at one time',
    );
    expect(unreachableBecause([[state(1, true), state(2, true)]])).toBe('"state 1" and "state 2" would have to be active at one time');
    const never: Literal = { k: 'truth', text: 'FALSE', node: { k: 'const', type: 'BOOL', value: 0 }, value: true };
    expect(unreachableBecause([[never]])).toBe('"FALSE" is always FALSE');
    expect(unreachableBecause([])).toBeUndefined();
    // Of many ways not all may have been looked at.
    expect(unreachableBecause(Array.from({ length: 12 }, () => [never]))).toBeUndefined();
  });
});
