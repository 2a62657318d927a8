import { describe, expect, it } from 'vitest';
import type { CoverageReport } from '@/core/coverage';
import { coverageSentence, touchedWords } from '@/ui/coverage/sentence';

const report = (touched: Readonly<Record<string, readonly number[]>>, conditions: readonly boolean[] = []): CoverageReport =>
  ({
    items: Object.entries(touched).flatMap(([kind, counts]) => counts.map((count) => ({ kind, count }))),
    conditions: conditions.map((shown) => ({ shown })),
  }) as unknown as CoverageReport;

describe('what was touched, in a sentence', () => {
  const all = report({ state: [1, 0], transition: [3], outcome: [0], row: [2], position: [1], limit: [1, 1, 0], message: [4] }, [true, false]);

  it('of one case has verbs of one', () =>
    expect(touchedWords(all, true)).toBe(
      'enters 1 of 2 states, takes 1 of 1 transition, sees 0 of 1 outcome, uses 1 of 1 row, sees 1 of 1 position, reaches 2 of 3 limits, sends 1 of 1 message and shows 1 of 2 conditions to decide',
    ));

  it('of several has verbs of several', () =>
    expect(touchedWords(all, false)).toBe(
      'enter 1 of 2 states, take 1 of 1 transition, see 0 of 1 outcome, use 1 of 1 row, see 1 of 1 position, reach 2 of 3 limits, send 1 of 1 message and show 1 of 2 conditions to decide',
    ));

  it('leaves out what there is none of, and says when there is nothing at all', () => {
    expect(touchedWords(report({ limit: [1] }), true)).toBe('reaches 1 of 1 limit');
    expect(coverageSentence({ count: 2, what: 'case', report: report({ state: [1], row: [0] }) } as Parameters<typeof coverageSentence>[0])).toBe(
      '2 cases enter 1 of 1 state and use 0 of 1 row.',
    );
    expect(coverageSentence({ count: 1, what: 'case', report: report({}) } as Parameters<typeof coverageSentence>[0])).toBe(
      'There is no sampled logic that runs could touch.',
    );
  });
});
