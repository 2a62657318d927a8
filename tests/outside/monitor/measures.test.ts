import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Obligation } from '@/core/criteria';
import { judgeCsv } from './harness';
import type { Row } from './oracle';
import { rows, writeCsv } from './random';

// Source: docs/language.md, "Exact meaning of criteria": an obligation is broken at the first instant at which it can no longer be met.

/** The trace as it would be, had the run ended at `t`. */
function cut(list: readonly Row[], t: number): Row[] {
  const before = list.filter((row) => row.t <= t);
  const [last, next] = [before.at(-1)!, list[before.length]];
  if (last.t === t || !next) return before;
  const share = (t - last.t) / (next.t - last.t);
  return [...before, { ...last, t, x: last.x + share * (next.x - last.x), y: last.y + share * (next.y - last.y) }];
}

const upper = fc.constantFrom(
  'peak of x <= 4',
  'peak of x < 4',
  'peak of x <= 6 while p',
  'peak of k <= 1 after 1 s',
  'count of p rises <= 1',
  'count of p rises < 2 while q',
  'count of p changes in any 2 s <= 1',
  'count of (x > 4) rises in any 3 s <= 1',
  'duration of p <= 1 s',
  'duration of (x > 2) < 2 s',
  'duration of p <= 1 s while q',
  'longest p <= 1 s',
  'longest (x >= 4 AND q) < 1 s',
  'settling of x to k within 1 <= 1 s',
  'settling of x to k within 1 < 2 s',
  'overshoot of x to k <= 50 %',
  'rise time of x to k <= 1 s',
  'time from p rises to q rises <= 1 s',
  'time from p rises to p rises <= 2 s',
  'time from p falls to q changes < 1 s',
  'between p rises and q rises at least 1 s',
  'between p rises and p rises at least 2 s',
  'between p changes and p changes at least 1.5 s',
);

const sameAs =
  (one: Obligation) =>
  (other: Obligation): boolean =>
    other.from === one.from;

describe('a measure is broken at the first instant at which it can no longer be met', () => {
  it('cut just before that instant it is not broken, cut just after it is', () => {
    let broken = 0;
    fc.assert(
      fc.property(rows(false), upper, (list, sentence) => {
        const whole = judgeCsv(writeCsv(list), sentence);
        for (const one of whole.obligations) {
          if (one.outcome !== 'broken') continue;
          broken += 1;
          const at = (t: number) => judgeCsv(writeCsv(cut(list, t)), sentence).obligations.find(sameAs(one));
          if (one.at - 1e-6 > list[0]!.t && at(one.at - 1e-6)?.outcome === 'broken')
            throw new Error(`${sentence}: broken before ${one.at}\n${writeCsv(list)}`);
          const until = list.at(-1)!.t;
          if (one.at + 1e-6 < until && at(one.at + 1e-6)?.outcome !== 'broken')
            throw new Error(`${sentence}: not broken after ${one.at}\n${writeCsv(list)}`);
        }
      }),
      { numRuns: 4000 },
    );
    expect(broken).toBeGreaterThan(500);
  });

  it('the sign of the margin never contradicts the outcome', () => {
    fc.assert(
      fc.property(rows(false), upper, (list, sentence) => {
        for (const { outcome, margin } of judgeCsv(writeCsv(list), sentence).obligations) {
          if (margin && outcome === 'met') expect(margin.value).toBeGreaterThanOrEqual(0);
          if (margin && outcome === 'broken') expect(margin.value).toBeLessThanOrEqual(0);
        }
      }),
      { numRuns: 1000 },
    );
  });

  it('counts in any window are those of a naive count', () => {
    fc.assert(
      fc.property(rows(false), fc.constantFrom(1, 2, 3), fc.constantFrom(1, 2), (list, seconds, most) => {
        // Of two rows for one instant the second counts.
        const last = list.filter((row, index) => list[index + 1]?.t !== row.t);
        const events = last.flatMap((row, index) => (index > 0 && row.p && !last[index - 1]!.p ? [row.t] : []));
        const fits = events.every((t) => events.filter((other) => other >= t && other < t + seconds).length <= most);
        const { verdict } = judgeCsv(writeCsv(list), `count of p rises in any ${seconds} s <= ${most}`);
        expect(verdict === 'fail').toBe(!fits);
        if (events.length === 0) expect(verdict).toBe('none');
      }),
      { numRuns: 500 },
    );
  });
});

describe('events that follow on each other', () => {
  const text = 'time[s],a,b\n0,FALSE,FALSE\n1,TRUE,FALSE\n2,FALSE,TRUE\n5,TRUE,FALSE\n6,FALSE,TRUE\n7,FALSE,FALSE\n20,FALSE,FALSE';
  const told = (sentence: string) => judgeCsv(text, sentence).obligations.map((one) => [one.from, one.outcome, one.at, one.margin?.value]);

  it.each([
    [
      'time from a rises to a rises <= 5 s',
      [
        [1, 'met', 5, 1],
        [5, 'broken', 10, -10],
      ],
    ],
    [
      'time from a rises to a rises <= 3 s',
      [
        [1, 'broken', 4, -1],
        [5, 'broken', 8, -12],
      ],
    ],
    [
      'time from a rises to b rises <= 3 s',
      [
        [1, 'met', 2, 2],
        [5, 'met', 6, 2],
      ],
    ],
    [
      'sequence a rises then a rises within 5 s',
      [
        [1, 'met', 5, 1],
        [5, 'broken', 10, -10],
      ],
    ],
    [
      'sequence a rises then b rises then a rises',
      [
        [1, 'met', 5, undefined],
        [5, 'open', 20, undefined],
      ],
    ],
    [
      'between a rises and a rises at least 4 s',
      [
        [1, 'met', 5, 0],
        [5, 'met', 9, 11],
      ],
    ],
    [
      'between a rises and a rises at least 5 s',
      [
        [1, 'broken', 5, -1],
        [5, 'met', 10, 10],
      ],
    ],
    [
      'between a rises and b rises at least 2 s',
      [
        [1, 'broken', 2, -1],
        [5, 'broken', 6, -1],
      ],
    ],
    ['between a rises and b rises at least 30 s while b', [[5, 'broken', 6, -29]]],
    [
      'between b falls and a rises at least 30 s',
      [
        [5, 'open', 20, undefined],
        [7, 'open', 20, undefined],
      ],
    ],
    [
      'count of a rises in any 4 s <= 1',
      [
        [1, 'met', 5, 0],
        [5, 'met', 9, 0],
      ],
    ],
    [
      'count of a rises in any 4.5 s <= 1',
      [
        [1, 'broken', 5, -1],
        [5, 'met', 9.5, 0],
      ],
    ],
    [
      'count of a rises in any 5 s >= 1',
      [
        [0, 'met', 1, 1],
        [1, 'met', 5, 0],
        [5, 'broken', 10, -1],
      ],
    ],
    ['count of a rises <= 1', [[0, 'broken', 5, -1]]],
    ['count of a rises >= 3', [[0, 'broken', 20, -1]]],
    ['count of a rises <= 1 after 2 s', [[0, 'met', 20, 0]]],
    ['duration of a <= 1.5 s', [[0, 'broken', 5.5, -0.5]]],
    ['duration of a <= 1.5 s after 3 s', [[0, 'met', 20, 0.5]]],
    [
      'longest a <= 1 s',
      [
        [1, 'met', 2, 0],
        [5, 'met', 6, 0],
      ],
    ],
    [
      'longest of b <= 0.5 s',
      [
        [2, 'broken', 2.5, -2.5],
        [6, 'broken', 6.5, -0.5],
      ],
    ],
  ] as const)('%s', (sentence, wanted) => expect(told(sentence)).toEqual(wanted));
});

describe('what never came about shows nothing', () => {
  const text = 'time[s],a,x[m]\n0,FALSE,1\n10,FALSE,1';
  it.each([
    ['duration of a <= 3 s', 'none'],
    ['longest a <= 3 s', 'none'],
    ['count of a rises <= 3', 'none'],
    ['count of a rises in any 1 s <= 3', 'none'],
    ['peak of x <= 3 m while a', 'none'],
    ['mean of x <= 3 m after 20 s', 'none'],
    // Forbidden altogether, or wanted: then it says something.
    ['count of a rises <= 0', 'pass'],
    ['duration of a <= 0 s', 'pass'],
    ['duration of a >= 1 s', 'fail'],
    ['count of a rises >= 1', 'fail'],
  ])('%s: %s', (sentence, verdict) => expect(judgeCsv(text, sentence).verdict).toBe(verdict));
});

describe('where a measure looks', () => {
  const text = 'time[s],r[m]{hold},y[m],ready\n0,2,0,FALSE\n2,2,3,FALSE\n3,2,2,TRUE\n10,4,2,TRUE\n11,4,4.2,TRUE\n12,4,4,TRUE\n20,4,4,TRUE';
  const steps = (sentence: string) => judgeCsv(text, sentence).obligations.map((one) => [one.from, one.outcome]);
  it('leaves out the approach from the initial state', () => {
    expect(steps('overshoot of y to r <= 20 %')).toEqual([
      [0, 'broken'],
      [10, 'met'],
    ]);
    expect(steps('overshoot of y to r <= 20 % after 5 s')).toEqual([[10, 'met']]);
    expect(steps('overshoot of y to r <= 20 % while ready')).toEqual([[10, 'met']]);
    expect(steps('overshoot of y to r <= 20 % while ready after 15 s')).toEqual([]);
  });
  it('means and peaks are those of the scope', () => {
    const of = (sentence: string) => judgeCsv(text, sentence).obligations[0]!.margin!.value;
    expect(of('peak of y <= 10 m while NOT ready')).toBeCloseTo(10 - 3, 9);
    expect(of('mean of y <= 10 m after 12 s')).toBeCloseTo(10 - 4, 9);
    // ∫ from 1 s on: 1.5 to 3 in a second, 3 to 2, 2 for 7 s, 2 to 4.2, 4.2 to 4, 4 for 8 s.
    expect(of('mean of y <= 10 m after 1 s')).toBeCloseTo(10 - (2.25 + 2.5 + 14 + 3.1 + 4.1 + 32) / 19, 9);
  });
});

describe('a figure that is exactly its limit', () => {
  const outcomes = (csv: string, sentence: string) => judgeCsv(csv, sentence).obligations.map((one) => one.outcome);

  it('of a time keeps it, at whatever tenths the instants lie', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 6_048_000 }),
        fc.integer({ min: 1, max: 5000 }),
        fc.integer({ min: 1, max: 5000 }),
        (start, first, second) => {
          const [a, b, c] = [start, start + first, start + first + second].map((tenths) => tenths / 10);
          const csv = `time[s],e{hold},p{hold}\n${start / 10 - 1},FALSE,FALSE\n${a},TRUE,FALSE\n${b},TRUE,TRUE\n${c},FALSE,FALSE\n${c! + 1},FALSE,FALSE`;
          for (const [operator, outcome] of [
            ['<=', 'met'],
            ['>=', 'met'],
            ['<', 'broken'],
          ] as const) {
            expect(outcomes(csv, `time from e rises to p rises ${operator} ${first / 10} s`)).toEqual([outcome]);
            expect(outcomes(csv, `longest e ${operator} ${(first + second) / 10} s`)).toEqual([outcome]);
            expect(outcomes(csv, `duration of p ${operator} ${second / 10} s`)).toEqual([outcome]);
          }
          expect(outcomes(csv, `when e rises, within ${first / 10} s p`)).toEqual(['met']);
          expect(outcomes(csv, `between e rises and p rises at least ${first / 10} s`)).toEqual(['met']);
        },
      ),
    );
  });

  it('of a mean or an rms keeps it, over however many rows', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 99_999 }),
        fc.integer({ min: 2, max: 2000 }),
        fc.constantFrom(0.01, 0.1, 0.3),
        (thousandths, count, every) => {
          const value = thousandths / 1000;
          const csv = `time[s],y[m]\n${Array.from({ length: count }, (_, row) => `${(row * every).toFixed(2)},${value}`).join('\n')}`;
          for (const figure of ['mean', 'rms'])
            for (const operator of ['<=', '>=']) expect(outcomes(csv, `${figure} of y ${operator} ${value} m`)).toEqual(['met']);
          expect(outcomes(csv, `mean of y < ${value} m`)).toEqual(['broken']);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('of a distance keeps it, and the margin is none', () => {
    const thousandths = fc.integer({ min: -3_000_000, max: 3_000_000 });
    fc.assert(
      fc.property(thousandths, fc.integer({ min: 1, max: 5000 }), fc.boolean(), fc.constantFrom('', '{hold}'), (middle, distance, isAbove, hold) => {
        const [r, d, y] = [middle / 1000, distance / 1000, (middle + (isAbove ? distance : -distance)) / 1000];
        const csv = `time[s],y[m]${hold},r[m]${hold}\n0,${r},${r}\n1,${y},${r}\n2,${y},${r}`;
        const told = (sentence: string) => judgeCsv(csv, sentence).obligations.map((one) => [one.outcome, one.margin?.value]);
        expect(told(`always y = r ± ${d} m`)).toEqual([['met', 0]]);
        expect(told(`always y = ${r} m ± ${d} m`)).toEqual([['met', 0]]);
        expect(told(`always ABS(y - r) <= ${d}`)).toEqual([['met', 0]]);
        expect(told(`always ABS(y - r) < ${d}`)).toEqual([['broken', 0]]);
        expect(outcomes(csv, `always y = r ± ${(distance - 0.01) / 1000} m`)).toEqual(['broken']);
        expect(outcomes(csv, `always y = r ± ${(distance + 0.01) / 1000} m`)).toEqual(['met']);
      }),
    );
  });

  const answer = 'time[s],y[m]{hold},r[m]{hold}\n0,0,0\n1,0,1\n2,1.05,1\n3,0.98,1\n30,0.98,1';
  it.each([
    ['overshoot of y to r <= 5 %', 'met'],
    ['overshoot of y to r < 5 %', 'broken'],
    ['overshoot of y to r <= 4.99 %', 'broken'],
    ['steady error of y to r <= 2 %', 'met'],
    ['steady error of y to r <= 0.02 m', 'met'],
    ['steady error of y to r <= 0.0199 m', 'broken'],
    ['settling of y to r within 2 % <= 2 s', 'met'],
    ['settling of y to r within 1.99 % <= 2 s', 'broken'],
  ])('%s: %s', (sentence, outcome) => expect(outcomes(answer, sentence)).toEqual([outcome]));
});

describe('a limit in another unit', () => {
  it.each([
    ['always y <= 4.1 mm', 'met'],
    ['always y >= 0.41 cm', 'met'],
    ['always y = 4.1 mm ± 0 mm', 'met'],
    ['always y < 4.1 mm', 'broken'],
    ['always y in [4.1 mm, 1 cm]', 'met'],
    ['when start, within 0.1 min y >= 4.1 mm', 'met'],
  ])('%s where y is 0.0041 m: %s', (sentence, outcome) =>
    expect(judgeCsv('time[s],y[m]\n0,0.0041\n1,0.0041', sentence).obligations[0]!.outcome).toBe(outcome),
  );
});

describe('the rate of a signal', () => {
  const text = 'time[s],y[m],n[m]{hold},t[Cel]\n0,0,0,20\n2,4,0,20\n2,4,3,20\n4,4,3,26\n5,1,9,26\n8,1,9,26';
  const told = (sentence: string) => judgeCsv(text, sentence).obligations.map((one) => [one.outcome, one.at, one.margin?.value]);
  it.each([
    ['always rate of y <= 2 m/s', [['met', 8, 0]]],
    ['always rate of y >= -2 m/s', [['broken', 4, -1]]],
    ['always ABS(rate of y) <= 3 m/s', [['met', 8, 0]]],
    ['always rate of y in [-200 m/min, 180 m/min]', [['met', 8, 1 / 3]]],
    ['always rate of t <= 3 K/s', [['met', 8, 0]]],
    ['always rate of t <= 2 K/s', [['broken', 2, -1]]],
  ] as const)('%s', (sentence, wanted) => {
    told(sentence).forEach(([outcome, at, margin], index) => {
      expect([outcome, at]).toEqual(wanted[index]!.slice(0, 2));
      expect(margin).toBeCloseTo(wanted[index]![2], 9);
    });
  });
  it('keeps a limit that it exactly equals, whatever the last bits of a long recording are', () => {
    const exact = fc.record({
      thousandths: fc.integer({ min: -5000, max: 5000 }),
      start: fc.integer({ min: -1000, max: 1000 }),
      from: fc.integer({ min: 0, max: 604_800 }),
      every: fc.constantFrom(0.05, 0.1, 0.25, 1),
      isSummed: fc.boolean(),
    });
    fc.assert(
      fc.property(exact, ({ thousandths, start, from, every, isSummed }) => {
        const rate = thousandths / 1000;
        let sum = start;
        const lines = Array.from({ length: 60 }, (_, row) => {
          const y = isSummed ? sum : start + rate * (row * every);
          sum += rate * every;
          return `${from + row * every},${y}`;
        });
        const csv = `time[s],y[m]\n${lines.join('\n')}`;
        for (const sentence of [`always rate of y <= ${rate} m/s`, `always rate of y >= ${rate} m/s`])
          expect(judgeCsv(csv, sentence).obligations.map((one) => [one.outcome, one.margin?.value])).toEqual([['met', 0]]);
        // The same in a unit that makes no short decimal of it.
        expect(judgeCsv(csv, `always rate of y <= ${(thousandths * 60) / 1000} m/min`).obligations[0]!.outcome).toBe('met');
        // Beyond the rounding it is broken.
        expect(judgeCsv(csv, `always rate of y < ${rate - 1e-4} m/s`).obligations[0]!.outcome).toBe('broken');
      }),
    );
  });
  it('of a sampled signal is the difference to its last value per second', () => {
    // 3 m since the row at the same instant is a jump in the recording: without bound.
    expect(judgeCsv('time[s],n[m]{hold}\n0,0\n2,0\n4,3\n5,9', 'always rate of n <= 2 m/s').obligations[0]).toMatchObject({
      outcome: 'broken',
      at: 5,
      margin: { value: -4 },
    });
    expect(judgeCsv('time[s],y[m]\n0,0\n1,0\n1,2\n2,2', 'always rate of y <= 100 m/s').obligations[0]).toMatchObject({ outcome: 'broken', at: 1 });
  });
  it.each([
    ['always rate of y <= 2 m', /m\/s|unit/],
    ['always rate of (y + n) <= 2 m/s', /rate is taken of a signal/],
    ['always rate of 3 <= 2', /rate is taken of a signal/],
  ])('%s is refused', (sentence, why) => expect(() => judgeCsv(text, sentence)).toThrow(why));
});
