import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { judgeCsv } from './monitor/harness';

// Source: Ogata, Modern Control Engineering: the step response of a second-order system, y = 1 − e^{−ζωt} (cos ω_d t + ζω/ω_d sin ω_d t): overshoot e^{−πζ/√(1−ζ²)}, peak at π/ω_d. Rise from 10 to 90 % and the exact
// instant of settling have no closed form; they are found here by bisection on the formula.
const response = (zeta: number, omega: number) => {
  const damped = omega * Math.sqrt(1 - zeta * zeta);
  return (t: number): number => 1 - Math.exp(-zeta * omega * t) * (Math.cos(damped * t) + ((zeta * omega) / damped) * Math.sin(damped * t));
};
const step = 0.002;
const until = 20;
/** Rows of time, reference and answer: the reference steps from 0 to 1 at 1 s. */
const csv = (y: (t: number) => number): string => {
  const rows = Array.from({ length: until / step + 1 }, (_, index) => Number((index * step).toFixed(6)));
  return ['time[s],r[m]{hold},y[m]', ...rows.map((t) => `${t},${t < 1 ? 0 : 1},${t < 1 ? 0 : y(t - 1)}`)].join('\n');
};
const bisect = (holds: (t: number) => boolean, low: number, high: number): number => {
  let [a, b] = [low, high];
  for (let i = 0; i < 80; i += 1) [a, b] = holds((a + b) / 2) ? [a, (a + b) / 2] : [(a + b) / 2, b];
  return b;
};
/** The figure that a limit of so much has as its margin. */
const figure = (text: string, sentence: string, limit: number): number => limit - judgeCsv(text, sentence).obligations[0]!.margin!.value;

describe.each([
  [0.2, 2],
  [0.5, 3],
  [0.7, 1.5],
])('the second-order step response, ζ = %s, ω = %s', (zeta, omega) => {
  const y = response(zeta, omega);
  const text = csv(y);

  it('overshoots by e^{−πζ/√(1−ζ²)}', () => {
    const wanted = 100 * Math.exp((-Math.PI * zeta) / Math.sqrt(1 - zeta * zeta));
    expect(Math.abs(figure(text, 'overshoot of y to r <= 80 %', 80) / wanted - 1)).toBeLessThan(1e-3);
    expect(judgeCsv(text, `overshoot of y to r <= ${(wanted + 0.1).toFixed(3)} %`).verdict).toBe('pass');
    expect(judgeCsv(text, `overshoot of y to r <= ${(wanted - 0.1).toFixed(3)} %`).verdict).toBe('fail');
  });

  it('rises from 10 to 90 %', () => {
    const peak = Math.PI / (omega * Math.sqrt(1 - zeta * zeta));
    const wanted = bisect((t) => y(t) >= 0.9, 0, peak) - bisect((t) => y(t) >= 0.1, 0, peak);
    expect(Math.abs(figure(text, 'rise time of y to r <= 9 s', 9) / wanted - 1)).toBeLessThan(1e-3);
  });

  it('settles at the exact crossing of its band, not by the rule of thumb', () => {
    // The last instant outside: walked back from the end in small steps, then bisected.
    let t = until - 1;
    while (Math.abs(y(t) - 1) <= 0.02) t -= 1e-3;
    const wanted = bisect((at) => Math.abs(y(at) - 1) <= 0.02, t, t + 1e-3);
    expect(Math.abs(figure(text, 'settling of y to r within 2 % <= 18 s', 18) / wanted - 1)).toBeLessThan(1e-3);
    expect(figure(text, 'settling of y to r within 20 mm <= 18 s', 18)).toBeCloseTo(figure(text, 'settling of y to r within 2 % <= 18 s', 18), 6);
  });
});

describe('measures over a run', () => {
  const text = 'time[s],x[m],a\n0,0,FALSE\n1,2,TRUE\n3,2,FALSE\n4,-1,TRUE\n6,-1,FALSE\n10,3,FALSE';
  it.each([
    ['peak of x <= 5 m', 5 - 3],
    // ∫ x² = 4/3 + 8 + (4 − 2 + 1)/3 + 2 + (1 − 3 + 9)·4/3
    ['rms of x <= 9 m', 9 - Math.sqrt((4 / 3 + 8 + 1 + 2 + 28 / 3) / 10)],
    // ∫ x = 1 + 4 + 0.5 − 2 + 4
    ['mean of x <= 9 m', 9 - 0.75],
    ['duration of a <= 9 s', 9 - 4],
    ['duration of (x > 1 m) >= 1 s', 0.5 + 2 + 1 / 3 + 2 - 1],
    ['count of a rises <= 3', 1],
    ['count of a falls >= 2', 0],
    ['time from a rises to a falls <= 3 s', 1],
    ['steady error of x to 3 m <= 1 m', 1 - 1],
  ])('%s', (sentence, margin) => {
    const { obligations, verdict } = judgeCsv(text, sentence);
    expect(verdict).toBe('pass');
    expect(Math.min(...obligations.map((one) => one.margin!.value))).toBeCloseTo(margin, 9);
  });

  it('owes one obligation for each step of the reference, none where there is no step', () => {
    const steps = 'time[s],r[m]{hold},y[m]\n0,0,0\n1,1,0\n2,1,1.2\n3,1,1\n5,0,1\n6,0,-0.1\n7,0,0\n9,0,0';
    const { obligations } = judgeCsv(steps, 'overshoot of y to r <= 15 %');
    expect(obligations.map((one) => [one.from, one.until, one.outcome])).toEqual([
      [1, 5, 'broken'],
      [5, 9, 'met'],
    ]);
    expect(judgeCsv('time[s],r[m]{hold},y[m]\n0,1,1\n5,1,1', 'overshoot of y to r <= 5 %').verdict).toBe('none');
  });

  it('leaves open what could still come in time, and breaks what no longer can', () => {
    const slow = 'time[s],r[m]{hold},y[m]\n0,0,0\n1,1,0\n4,1,0.5';
    expect(judgeCsv(slow, 'rise time of y to r <= 8 s').verdict).toBe('inconclusive');
    expect(judgeCsv(slow, 'rise time of y to r <= 1 s')).toMatchObject({ verdict: 'fail', obligations: [{ margin: { atLeast: true } }] });
    expect(judgeCsv(slow, 'settling of y to r within 2 % <= 2 s').verdict).toBe('fail');
    expect(judgeCsv('time[s],x[m]\n0,1\n1,\n2,1', 'peak of x <= 5 m')).toMatchObject({
      verdict: 'inconclusive',
      obligations: [{ reason: 'a value is missing inside the obligation' }],
    });
  });

  it('tells a duration across missing values only where they change nothing', () => {
    const row = fc.constantFrom('TRUE', 'FALSE', '');
    const rows = fc.array(row, { minLength: 2, maxLength: 9 });
    const sentence = fc
      .tuple(fc.constantFrom('duration', 'longest'), fc.constantFrom('<', '<=', '>', '>='), fc.integer({ min: 1, max: 6 }))
      .map(([kind, operator, limit]) => `${kind} of a ${operator} ${limit} s`);
    const judgedOf = (column: readonly string[], text: string) =>
      judgeCsv(['time[s],a{hold}', ...column.map((value, t) => `${t},${value}`)].join('\n'), text);
    const verdictOf = (column: readonly string[], text: string) => judgedOf(column, text).verdict;
    /** Every way the missing values may have been. */
    const completions = (column: readonly string[]): string[][] =>
      column.reduce<string[][]>(
        (all, value) => all.flatMap((begun) => (value === '' ? ['TRUE', 'FALSE'] : [value]).map((one) => [...begun, one])),
        [[]],
      );
    const told = { pass: 0, fail: 0 };
    fc.assert(
      fc.property(rows, sentence, (column, text) => {
        fc.pre(column.includes('') && !column.every((value) => value === ''));
        const { verdict, obligations } = judgedOf(column, text);
        if (verdict !== 'pass' && verdict !== 'fail') return;
        // An obligation left open beside one that was met leaves the run passed, as with every sentence.
        if (verdict === 'pass' && obligations.some(({ outcome }) => outcome === 'open')) return;
        told[verdict] += 1;
        const possible = new Set(completions(column).map((whole) => verdictOf(whole, text)));
        expect([...possible].filter((one) => one !== verdict)).toEqual([]);
      }),
      { numRuns: 300, seed: 19 },
    );
    expect(Math.min(told.pass, told.fail)).toBeGreaterThan(10);
    expect(verdictOf(['TRUE', '', 'FALSE', 'FALSE'], 'duration of a <= 1 s')).toBe('inconclusive');
    expect(verdictOf(['TRUE', '', '', 'TRUE', 'FALSE'], 'longest of a <= 2 s')).toBe('inconclusive');
  });

  it.each([
    ['overshoot of x to x <= 5 m', /share of the step/],
    ['overshoot of x <= 5 %', /"to" is missing|Say what it follows|to/],
    ['rms of x * x <= 5', /signal/],
    ['count of a rises', /limit is missing/],
    ['count of a rises <= 2 s', /plain number/],
    ['duration of a <= 5 m', /is a time/],
    ['peak of x', /limit is missing/],
  ])('%s is refused', (sentence, why) => expect(() => judgeCsv(text, sentence)).toThrow(why));
});
