/**
 * Boundary value analysis and equivalence partitioning of the kind of ISO/IEC/IEEE 29119-4:2021 (three-value boundary value analysis: the boundary, and the smallest step to either side of it; each partition by
 * itself). The example is the grading of marks that is commonly used to teach them (70 and more of 100 is A, 50 to 69 is B): quoted from memory, the standard itself is not at hand. Durations and orders are
 * common practice.
 */
import { describe, expect, it } from 'vitest';
import { compileAlone, judge, signalsOf } from '@/core/criteria';
import { boundBoundaries, offOf } from '@/core/design';
import { type Recorded, recordedTrace } from '../support/trace';

/** Keys of the borders of a sentence that a recording reaches. @param step seconds between its rows, and between hits */
function reached(sentence: string, signals: Recorded, step = 0.1): string[] {
  const { trace, catalogue } = recordedTrace(signals, step);
  const { criterion, faults } = compileAlone(sentence, catalogue);
  if (!criterion) throw new Error(faults.map(({ message }) => message).join('; '));
  const run = signalsOf(trace);
  const plan = { slots: trace.columns, tasks: [{ periodNs: Math.round(step * 1e9) }] };
  const { obligations } = judge(criterion, run);
  return boundBoundaries(sentence, catalogue, plan).flatMap((one) => (offOf(one, run, obligations)?.measure === 0 ? [one.key] : []));
}

describe('marks and grades', () => {
  const marks = Array.from({ length: 101 }, (_, mark) => mark);
  const graded = (sentence: string): Record<string, number[]> => {
    const found: Record<string, number[]> = {};
    for (const mark of marks) {
      const signals: Recorded = { mark: ['INT', [mark, mark, mark]], grade: ['INT', [0, 0, 0]], resit: ['BOOL', [0, 0, 0]] };
      for (const key of reached(sentence, signals)) found[key] = [...(found[key] ?? []), mark];
    }
    return found;
  };

  it('A from 70 on: 69, 70, 71', () => {
    expect(graded('while mark >= 70, grade = 1')).toEqual({
      'turns below mark >= 70': [69],
      'turns at mark >= 70': [70],
      'turns above mark >= 70': [71],
    });
  });

  it('B from 50 to below 70: the three values of each of its two borders, whichever way the limit is written', () => {
    expect(graded('while mark >= 50 AND mark < 70, grade = 2')).toEqual({
      'turns below mark >= 50': [49],
      'turns at mark >= 50': [50],
      'turns above mark >= 50': [51],
      'turns above mark < 70': [69],
      'turns at mark < 70': [70],
      'turns below mark < 70': [71],
    });
    expect(graded('while mark in [50, 69], grade = 2')).toEqual({
      'turns below mark >= 50': [49],
      'turns at mark >= 50': [50],
      'turns above mark >= 50': [51],
      'turns above mark <= 69': [68],
      'turns at mark <= 69': [69],
      'turns below mark <= 69': [70],
    });
  });

  it('the mark as a paper is handed in: its three values at that event, and an event of another partition, for which nothing is owed', () => {
    const found: Record<string, number[]> = {};
    for (const mark of marks) {
      const signals: Recorded = { mark: ['INT', [mark, mark, mark]], handed: ['BOOL', [0, 1, 1]], passed: ['BOOL', [0, 1, 1]] };
      for (const key of reached('when handed rises while mark >= 50, passed', signals)) found[key] = [...(found[key] ?? []), mark];
    }
    expect(found).toEqual({
      'without mark >= 50': marks.slice(0, 50),
      'at event below mark >= 50': [49],
      'at event at mark >= 50': [50],
      'at event above mark >= 50': [51],
    });
  });
});

describe('partitions of what triggers', () => {
  const truths = [0, 1, 2, 3].map((bits) => [bits & 1, bits >> 1] as const);

  it('each alternative brings it about by itself', () => {
    const found = truths.map(([a, b]) =>
      reached('when a OR b rises, within 1 s p', { a: ['BOOL', [0, a, a]], b: ['BOOL', [0, b, b]], p: ['BOOL', [0, 1, 1]] }),
    );
    expect(found).toEqual([[], ['comes as a AND NOT b'], ['comes as b AND NOT a'], []]);
  });

  it('each part of the state is missing by itself', () => {
    const found = truths.map(([a, b]) =>
      reached('when e rises while a AND b, p', { e: ['BOOL', [0, 1, 1]], a: ['BOOL', [a, a, a]], b: ['BOOL', [b, b, b]], p: ['BOOL', [0, 1, 1]] }),
    );
    expect(found).toEqual([[], ['without b'], ['without a'], []]);
  });
});

describe('durations', () => {
  it('5 s at a hit of 0.1 s: 4.9 s, 5 s and 5.1 s, and one that is interrupted', () => {
    const pressed = (...spans: readonly (readonly [number, number])[]): Recorded => {
      const held = Array.from({ length: 200 }, (_, row) => (spans.some(([from, until]) => row >= from && row < until) ? 1 : 0));
      return { held: ['BOOL', held], lamp: ['BOOL', held] };
    };
    const keys = (...spans: readonly (readonly [number, number])[]): string[] => reached('if held for 5 s, within 1 s lamp', pressed(...spans));
    for (let hits = 1; hits < 120; hits += 1) {
      const key = { 49: 'lasts one hit short', 50: 'lasts exact', 51: 'lasts one hit longer' }[hits];
      expect(keys([10, 10 + hits])).toEqual(key ? [key] : []);
    }
    expect(keys([10, 40], [42, 61])).toEqual(['interrupted']);
    // It had ended before it would have lasted, or began again only after that.
    expect(keys([10, 40], [42, 59])).toEqual([]);
    expect(keys([10, 40], [61, 90])).toEqual([]);
    // One that the end of the recording cuts off has not ended.
    expect(keys([150, 200])).toEqual([]);
  });

  it('an event that comes again while an answer is owed', () => {
    const signals = (answer: number): Recorded => ({
      ask: ['BOOL', [0, 1, 0, 1, 0, 0, 0, 0, 0, 0]],
      answer: ['BOOL', Array.from({ length: 10 }, (_, row) => (row >= answer ? 1 : 0))],
    });
    expect(reached('when ask rises, within 4 s answer', signals(5), 1)).toEqual(['again']);
    expect(reached('when ask rises, within 4 s answer', signals(2), 1)).toEqual([]);
  });
});

describe('orders', () => {
  it('of three events each of the five wrong ones, and not the right one', () => {
    const orders = ['abc', 'acb', 'bac', 'bca', 'cab', 'cba'];
    const sentence = 'sequence a rises then b rises then c rises within 20 s';
    const found = orders.map((order) => {
      const at = (name: string): [`BOOL`, number[]] => ['BOOL', Array.from({ length: 10 }, (_, row) => (row > 2 * order.indexOf(name) + 1 ? 1 : 0))];
      return reached(sentence, { a: at('a'), b: at('b'), c: at('c') }, 1);
    });
    const keyOf = (order: string): string => `order ${[...order].map((name) => `it begins that ${name} holds`).join('; then ')}`;
    expect(found).toEqual([[], ...orders.slice(1).map((order) => [keyOf(order)])]);
  });
});
