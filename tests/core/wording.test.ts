import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { figure, figures, glossary, marginWords, percent, plural, shortfallWords, signedFigure, timeTicks, timeWords } from '@/core/wording';

describe('numbers in words', () => {
  it.each([
    [0, '0'],
    [-0, '0'],
    [1.24e-322, '0'],
    [-1e-40, '0'],
    [0.1 + 0.2, '0.3'],
    [-2.5, '−2.5'],
    [0.00012, '1.2e−4'],
    [1234567.8, '1234600'],
    [9999999.9, '1e7'],
    [6.02214e23, '6.0221e23'],
    [Number.NaN, '—'],
    [Number.POSITIVE_INFINITY, '∞'],
    [Number.NEGATIVE_INFINITY, '−∞'],
  ])('%d is %s', (value, words) => expect(figure(value)).toBe(words));

  it('margins, those in seconds as times', () => {
    expect([10600, -16760.25, 0.3, 0, -1e-12].map((value) => marginWords({ value, unit: 's' }))).toEqual([
      '+2 h 56 min 40 s',
      '−4 h 39 min 20.25 s',
      '+0.3 s',
      '0 s',
      '0 s',
    ]);
    expect(marginWords({ value: -40, unit: '%', atLeast: true })).toBe('≥ −40 %');
    expect(marginWords({ value: 0, unit: 'm' })).toBe('0 m');
    expect(marginWords({ value: 3, unit: '' })).toBe('+3');
    expect(shortfallWords({ value: -10600, unit: 's', atLeast: true })).toBe('at least 2 h 56 min 40 s');
    expect(shortfallWords({ value: 0, unit: 'm' })).toBe('0 m');
  });

  it('signs, shares and counts', () => {
    expect([0.021, -0.4, 0, -0, 1e-320].map(signedFigure)).toEqual(['+0.021', '−0.4', '0', '0', '0']);
    expect([0, 1e-12, 0.005, 0.123456, 0.99996, 1].map(percent)).toEqual([
      '0\u00a0%',
      'less than 0.0001\u00a0%',
      '0.5\u00a0%',
      '12.3\u00a0%',
      'more than 99.9\u00a0%',
      '100\u00a0%',
    ]);
  });
  it('never look the same side by side when they differ', () => {
    expect(figures([-19, -18.9998])).toEqual(['−19', '−18.9998']);
    expect(figures([1, 2])).toEqual(['1', '2']);
    fc.assert(
      fc.property(
        fc.array(
          fc.double({ noNaN: true, min: -1e6, max: 1e6 }).map((one) => (Math.abs(one) < 1e-20 ? 0 : one)),
          { maxLength: 6 },
        ),
        (values) => {
          expect(new Set(figures(values)).size).toBe(new Set(values).size);
        },
      ),
    );
    expect([plural(1, 'requirement'), plural(0, 'requirement'), plural(2, 'box', 'boxes')]).toEqual(['1 requirement', '0 requirements', '2 boxes']);
  });

  it('say the value to the digits they have, with no exponent and no sign of zero that nobody needs', () => {
    fc.assert(
      fc.property(fc.double({ min: -1e300, max: 1e300, noNaN: true }), (value) => {
        const words = figure(value);
        expect(words).not.toMatch(/e\+|^-|^−0$|e-/);
        const back = Number(words.replaceAll('−', '-'));
        expect(Math.abs(back - value)).toBeLessThanOrEqual(1e-30 + 0.5e-4 * Math.abs(value));
      }),
    );
  });
});

describe('times in words', () => {
  it.each([
    [0, '0 s'],
    [84.2, '84.2 s'],
    [599.9996, '10 min'],
    [18720, '5 h 12 min'],
    [86400, '1 d'],
    [86400.25, '1 d 0.25 s'],
    [604800 - 0.0001, '7 d'],
    [-7200, '−2 h'],
    [0.00025, '250 µs'],
    [3e-9, '3 ns'],
    [0.0009999, '0.001 s'],
    [Number.NaN, '—'],
    [Number.POSITIVE_INFINITY, '∞ s'],
  ])('%d s is %s', (seconds, words) => expect(timeWords(seconds)).toBe(words));

  it('go with the span they belong to', () => {
    expect(timeWords(300)).toBe('300 s');
    expect(timeWords(300, 86_400)).toBe('5 min');
    expect(timeWords(45.5, 86_400)).toBe('45.5 s');
    expect(timeTicks(0, 1_200, 4).map((one) => one.label)).toEqual(['0 s', '5 min', '10 min', '15 min', '20 min']);
  });

  it('can be read back to a millisecond', () => {
    const length: Readonly<Record<string, number>> = { d: 86_400, h: 3_600, min: 60, s: 1 };
    fc.assert(
      fc.property(fc.double({ min: 0.001, max: 1e7, noNaN: true }), (seconds) => {
        const back = [...timeWords(seconds).matchAll(/([\d.]+) (d|h|min|s)/g)].reduce((sum, part) => sum + Number(part[1]) * length[part[2]!]!, 0);
        expect(Math.abs(back - seconds)).toBeLessThan(0.000501);
      }),
    );
  });

  it('mark an axis at round instants, as many as there is room for, no two alike', () => {
    expect(timeTicks(0, 86_400, 6).map((one) => one.label)).toEqual(['0 s', '6 h', '12 h', '18 h', '1 d']);
    expect(timeTicks(0, 1, 5).map((one) => one.label)).toEqual(['0 s', '0.2 s', '0.4 s', '0.6 s', '0.8 s', '1 s']);
    expect(timeTicks(3600, 3600.0001, 6).map((one) => one.label)[1]).toBe('1 h + 40 µs');
    expect(timeTicks(0.000999, 0.001, 4).map((one) => one.label)).toEqual(['999 µs', '999.5 µs', '0.001 s']);
    expect(timeTicks(-1e-7, 1e-7, 4).map((one) => one.label)).toEqual(['−100 ns', '−50 ns', '0 s', '50 ns', '100 ns']);
    fc.assert(
      fc.property(
        fc.double({ min: -1e6, max: 1e6, noNaN: true }),
        fc.double({ min: 1e-6, max: 1e6, noNaN: true }),
        fc.integer({ min: 2, max: 20 }),
        (from, length, most) => {
          const ticks = timeTicks(from, from + length, most);
          expect(ticks.length).toBeLessThanOrEqual(most + 1);
          expect(new Set(ticks.map((one) => one.label)).size).toBe(ticks.length);
          for (const { at } of ticks)
            expect(at >= from - 1e-9 * Math.abs(from) - length * 1e-6 && at <= from + length + 1e-9 * Math.abs(from) + length * 1e-6).toBe(true);
        },
      ),
      { numRuns: 2_000 },
    );
  });
});

describe('the glossary', () => {
  it('says in the app what its page says, in the order of the alphabet', () => {
    const page = readFileSync('docs/glossary.md', 'utf8');
    expect(page.split('\n').slice(6)).toEqual([...glossary.map(([word, meaning]) => `| ${word} | ${meaning} |`), '']);
    const words = glossary.map(([word]) => word);
    expect(words).toEqual([...words].sort());
  });
});
