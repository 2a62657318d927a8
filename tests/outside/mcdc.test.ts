/**
 * Modified condition/decision coverage after the practical tutorial NASA/TM-2001-210876 (K. J. Hayhurst and others 2001): the minimum tests of its building blocks (chapter 2.3: n + 1 for AND and OR of n
 * inputs, two or three for NOT and XOR), and its rule that a decision of n conditions takes at least n + 1. Quoted from memory.
 */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Decision } from '@/core/coverage';
import type { ConditionTree } from '@/core/plan';

const node = { k: 'const', type: 'BOOL', value: 0 } as const;
const c = (text: string): ConditionTree => ({ k: 'condition', text, node });
const join = (k: 'and' | 'or' | 'xor', ...parts: readonly ConditionTree[]): ConditionTree => parts.reduce((a, b) => ({ k, a, b }));
const not = (of: ConditionTree): ConditionTree => ({ k: 'not', of });
/** `TF` stands for the first condition TRUE, the second FALSE. */
const rows = (...texts: readonly string[]): number[] =>
  texts.map((text) => [...text].reduce((bits, one, bit) => bits + (one === 'T' ? 2 ** bit : 0), 0));
const names = 'ABCDEFGH';
const isShown = (tree: ConditionTree, occurred: readonly number[]): (string | undefined)[] => {
  const decision = new Decision(tree);
  return Array.from({ length: decision.count }, (_, condition) => decision.shown(condition, occurred)?.how);
};

describe('the building blocks of the tutorial', () => {
  it.each([2, 3, 4, 5])('AND of %i: all TRUE, and each FALSE by itself', (count) => {
    const tree = join('and', ...[...names.slice(0, count)].map(c));
    const all = 'T'.repeat(count);
    const tests = rows(all, ...Array.from({ length: count }, (_, at) => `${all.slice(0, at)}F${all.slice(at + 1)}`));
    expect(isShown(tree, tests)).toEqual(new Array(count).fill('unique cause'));
    // Any of them is needed.
    for (const left of tests)
      expect(
        isShown(
          tree,
          tests.filter((one) => one !== left),
        ),
      ).toContain(undefined);
  });

  it.each([2, 3, 4, 5])('OR of %i: all FALSE, and each TRUE by itself', (count) => {
    const tree = join('or', ...[...names.slice(0, count)].map(c));
    const none = 'F'.repeat(count);
    const tests = rows(none, ...Array.from({ length: count }, (_, at) => `${none.slice(0, at)}T${none.slice(at + 1)}`));
    expect(isShown(tree, tests)).toEqual(new Array(count).fill('unique cause'));
    for (const left of tests)
      expect(
        isShown(
          tree,
          tests.filter((one) => one !== left),
        ),
      ).toContain(undefined);
  });

  it('XOR of two: any three of the four', () => {
    const tree = join('xor', c('A'), c('B'));
    for (const left of ['TT', 'TF', 'FT', 'FF']) {
      const three = rows(...['TT', 'TF', 'FT', 'FF'].filter((one) => one !== left));
      expect(isShown(tree, three)).toEqual(['unique cause', 'unique cause']);
    }
    expect(isShown(tree, rows('TT', 'TF'))).toEqual([undefined, 'unique cause']);
  });

  it('NOT: both', () => {
    expect(isShown(not(c('A')), rows('T', 'F'))).toEqual(['unique cause']);
    expect(isShown(not(c('A')), rows('T'))).toEqual([undefined]);
  });

  it('(A OR B) AND (C OR D): masking takes pairs in which the other side differs as well', () => {
    const tree = join('and', join('or', c('A'), c('B')), join('or', c('C'), c('D')));
    // TFTF and FFFT: A decides in the first; in the second C OR D is TRUE, A OR B FALSE, and A decides there too.
    const decision = new Decision(tree);
    expect(decision.shown(0, rows('TFTF', 'FFFT'))?.how).toBe('masking');
    expect(decision.shown(0, rows('TFTF', 'FFTF'))?.how).toBe('unique cause');
    expect(decision.shown(2, rows('TFTF', 'FFFT'))).toBeUndefined();
  });

  it('a condition that the others always cover up is told as such', () => {
    // A AND B OR A AND NOT B OR C AND NOT C: the third can make no difference, the first can.
    const tree = join('or', join('and', c('A'), c('A2')), join('and', c('A3'), not(c('A4'))));
    expect(new Decision(tree).canDecide(0)).toBe(true);
    expect(new Decision(join('or', c('A'), { k: 'or', a: c('B'), b: not(c('B')) })).canDecide(0)).toBe(true);
  });
});

/**
 * Combinations that show all conditions of a tree in which each stands once, TRUE and FALSE ones apart: those of the parts side by side, no more than n + 1.
 * @returns lists of truths from left to right
 */
function enough(tree: ConditionTree): { readonly yes: boolean[][]; readonly no: boolean[][] } {
  if (tree.k === 'condition') return { yes: [[true]], no: [[false]] };
  if (tree.k === 'not') {
    const { yes, no } = enough(tree.of);
    return { yes: no, no: yes };
  }
  const [a, b] = [enough(tree.a), enough(tree.b)];
  // Of AND the TRUE ones of both go side by side, and each FALSE one stands beside a TRUE one; of OR the other way round.
  const [both, single] = tree.k === 'and' ? (['yes', 'no'] as const) : (['no', 'yes'] as const);
  const beside = Array.from({ length: Math.max(a[both].length, b[both].length) }, (_, at) => [
    ...a[both][at % a[both].length]!,
    ...b[both][at % b[both].length]!,
  ]);
  const alone = [...a[single].map((one) => [...one, ...b[both][0]!]), ...b[single].map((one) => [...a[both][0]!, ...one])];
  return tree.k === 'and' ? { yes: beside, no: alone } : { yes: alone, no: beside };
}

/** Trees in which each condition stands once. */
const tree = (depth: number): fc.Arbitrary<ConditionTree> =>
  depth === 0
    ? fc.constant(c('x'))
    : fc.oneof(
        fc.constant(c('x')),
        tree(depth - 1).map(not),
        fc.tuple(fc.constantFrom('and' as const, 'or' as const), tree(depth - 1), tree(depth - 1)).map(([k, a, b]): ConditionTree => ({ k, a, b })),
      );

describe('any decision whose conditions are independent', () => {
  it('is shown by at most n + 1 combinations, and what is shown is so by definition', () => {
    fc.assert(
      fc.property(tree(3), fc.array(fc.nat(255), { maxLength: 8 }), (one, some) => {
        const decision = new Decision(one);
        const { count } = decision;
        fc.pre(count <= 6);
        const { yes, no } = enough(one);
        const tests = [...yes, ...no].map((row) => rows(row.map((truth) => (truth ? 'T' : 'F')).join(''))[0]!);
        expect(tests.length).toBeLessThanOrEqual(count + 1);
        const occurred = some.map((combination) => combination % 2 ** count);
        for (let condition = 0; condition < count; condition += 1) {
          expect(decision.shown(condition, tests)).toBeDefined();
          const bit = 2 ** condition;
          const flips = (of: number): boolean => decision.outcome(of) !== decision.outcome(of ^ bit);
          const pairs = occurred
            .flatMap((a) => occurred.map((b) => [a, b] as const))
            .filter(([a, b]) => decision.outcome(a) && !decision.outcome(b) && (a & bit) !== (b & bit) && flips(a) && flips(b));
          const wanted = pairs.length === 0 ? undefined : pairs.some(([a, b]) => (a ^ b) === bit) ? 'unique cause' : 'masking';
          expect(decision.shown(condition, occurred)?.how).toBe(wanted);
        }
      }),
      { numRuns: 200 },
    );
  });
});
