import { describe, expect, it } from 'vitest';
import { normalSentence, parseSentence, printStl } from '@/core/criteria';

const wordsOf = (text: string): string | undefined => parseSentence(text).words?.sentence;

describe('a formula of temporal logic typed in', () => {
  it.each([
    ['G (x < 3 bar)', 'always x < 3 bar'],
    ['G ¬(a AND b)', 'never a AND b'],
    ['G !(a && b)', 'never a AND b'],
    ['G (a → b)', 'while a, b'],
    ['G((x + y) > 2 -> b)', 'while (x + y) > 2, b'],
    ['G[0,20] (p < 2.6)', 'when start, for 20 s p < 2.6'],
    ['F[0,3 min] done', 'when start, within 3 min done'],
    ['G (↑a → F[0,2] b)', 'when a rises, within 2 s b'],
    ['G (rise(x > 3) -> F[0,200ms] NOT b)', 'when (x > 3) rises, within 200 ms NOT b'],
    ['G (fall(a) → G[0,1) b)', 'when a falls, for 1 s b'],
    ['G (↑a ∧ (s ∨ t)⁻ → b)', 'when a rises while s OR t, b'],
    ['G (↑a → G[5,∞) ABS(x - y) <= 0.1)', 'when a rises, after 5 s ABS(x - y) <= 0.1'],
    ['G (↑a → F[0,2] G[0,1) b)', 'when a rises, within 2 s b for 1 s'],
    ['G (↑a → G[0,1) ¬b ∧ F[1,3] b)', 'when a rises, between 1 s and 3 s b'],
    ['G (↑a → b W c)', 'when a rises, b until c'],
    ['G (↑a → (b AND d) U[0,9] c)', 'when a rises, (b AND d) until c within 9 s'],
    ['G (↑H(0,2] a → F[0,1] b)', 'if a for 2 s, within 1 s b'],
    ['G (⇅a → b)', 'when a changes, b'],
  ])('%s', (typed, sentence) => {
    expect(wordsOf(typed)).toBe(sentence);
  });

  it('the formula printed beside a sentence, typed in, is that sentence again', () => {
    for (const sentence of [
      'always y in [1, 2]',
      'never a AND b',
      'while a AND NOT b, x <= 3 m',
      'when a rises, b',
      'when x > 3 rises while a OR b, within 2 s c',
      'when a falls, for 1.5 s NOT b',
      'when x crosses 3 upward, after 1 s y > 2',
      'when a rises, within 4 s b for 1 s',
      'when a rises, between 1 s and 20 s b AND c',
      'when a rises, b AND c until x > 0',
      'when a rises, b until c within 3 s',
      'if a AND b for 3 s, within 2 s c',
      'when start, within 3 s a',
    ]) {
      const { sentence: read } = parseSentence(sentence);
      const formula = read ? printStl(read) : '';
      const again = wordsOf(formula);
      expect(again && normalSentence(again), formula).toEqual(normalSentence(sentence.replace(/x crosses 3 upward/, '(x >= 3) rises')));
    }
  });

  it.each([
    ['G (a → F[0,2] b)', 'owed anew at every instant'],
    ['G (↑a ∧ s → b)', 'just before it'],
    ['G (↑a → F b)', 'without an end'],
    ['G (↑a → F[1,2] b)', 'opens later'],
    ['G F[0,2] a', 'An operator in time'],
    ['G (a → ', 'parenthesis is not closed'],
    ['G (a → )', 'condition is missing'],
    ['G (a) b c)', 'cannot follow'],
  ])('%s has no sentence, and is told why', (typed, told) => {
    const { faults, sentence } = parseSentence(typed);
    expect(sentence).toBeUndefined();
    expect(faults[0]?.message).toContain(told);
    expect(faults[0]?.fix).not.toBe('');
  });

  it('a closed end that a sentence leaves out is told', () => {
    expect(parseSentence('G[0,20] (p < 2.6)').words?.note).toContain('just before 20 s');
    expect(parseSentence('G[0,20) (p < 2.6)').words?.note).toBeUndefined();
  });

  it('hostile texts are refused at once', () => {
    for (const text of [
      `G ${'('.repeat(900)}a${')'.repeat(900)}`,
      `G ${'¬'.repeat(1900)}a`,
      `G (${'a -> '.repeat(300)}a)`,
      `G (${'a'.repeat(200_000)})`,
      `G ${'F[0,1] '.repeat(250)}a`,
    ]) {
      expect(parseSentence(text).faults).toHaveLength(1);
    }
  });
});
