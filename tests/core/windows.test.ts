import { describe, expect, it } from 'vitest';
import { parseSentence, printStl } from '@/core/criteria';
import { judgeCsv } from '../outside/monitor/harness';

/** Worked examples of docs/language.md for the sentences with a window, an order or a lasting condition: one line each, to be checked by hand. */
const outcomes = (rows: readonly string[], sentence: string): string[] =>
  judgeCsv(['time[s],r,a,b,c', ...rows].join('\n'), sentence).obligations.map(
    ({ from, outcome, at, margin }) =>
      `${from} ${outcome} ${at} ${margin ? `${margin.atLeast ? '>=' : ''}${Number(margin.value.toFixed(9))} ${margin.unit}` : '-'}`,
  );
/** One row: the time and which of r, a, b, c are TRUE. */
const row = (t: number, on = ''): string => [t, ...['r', 'a', 'b', 'c'].map((name) => (on.includes(name) ? 'TRUE' : 'FALSE'))].join(',');
const stl = (text: string): string => printStl(parseSentence(text).sentence as never);
const fault = (text: string): string | undefined => parseSentence(text).faults[0]?.message;

describe('within D1 P for D2', () => {
  const sentence = 'when r rises, within 2 s a for 3 s';
  it('is met by a beginning in time that lasts, and says the time left', () =>
    expect(outcomes([row(0), row(1, 'r'), row(2, 'ra'), row(9, 'ra')], sentence)).toEqual(['1 met 5 1 s']));
  it('a second attempt in time counts', () =>
    expect(outcomes([row(0), row(1, 'ra'), row(2, 'r'), row(3, 'ra'), row(9, 'ra')], sentence)).toEqual(['1 met 6 0 s']));
  it('one too short is broken where it ends, by what it lacked', () =>
    expect(outcomes([row(0), row(1, 'r'), row(2, 'ra'), row(4, 'r'), row(9)], sentence)).toEqual(['1 broken 4 -1 s']));
  it('one begun too late is broken at the deadline, by the lateness', () =>
    expect(outcomes([row(0), row(1, 'r'), row(4, 'ra'), row(9, 'ra')], sentence)).toEqual(['1 broken 3 -1 s']));
  it('one that still lasts at the end of the trace is open', () =>
    expect(outcomes([row(0), row(1, 'r'), row(2, 'ra'), row(4, 'ra')], sentence)).toEqual(['1 open 4 -']));
});

describe('between, after, until', () => {
  it('between: not before the window, nor after it', () => {
    const sentence = 'when r rises, between 1 s and 3 s a';
    expect(outcomes([row(0), row(1, 'r'), row(2.5, 'ra'), row(9, 'ra')], sentence)).toEqual(['1 met 2.5 0.5 s']);
    expect(outcomes([row(0), row(1, 'r'), row(1.5, 'ra'), row(9, 'ra')], sentence)).toEqual(['1 broken 1.5 -0.5 s']);
    expect(outcomes([row(0), row(1, 'r'), row(5, 'ra'), row(9, 'ra')], sentence)).toEqual(['1 broken 4 -1 s']);
  });
  it('after: from then on to the end; what was before is not asked', () => {
    const sentence = 'when r rises, after 2 s a';
    expect(outcomes([row(0), row(1, 'r'), row(3, 'ra'), row(9, 'ra')], sentence)[0]).toMatch(/^1 met 9 /);
    expect(outcomes([row(0), row(1, 'r'), row(3, 'ra'), row(7, 'r'), row(9)], sentence)[0]).toMatch(/^1 broken 7 /);
    expect(outcomes([row(0), row(1, 'r'), row(2, 'r')], sentence)).toEqual(['1 open 2 -']);
  });
  it('until: up to the first Q, at which P may end', () => {
    const rows = [row(0), row(1, 'ra'), row(4, 'rb'), row(9)];
    expect(outcomes(rows, 'when r rises, a until b')[0]).toMatch(/^1 met 4 /);
    expect(outcomes(rows, 'when r rises, a until b within 2 s')).toEqual(['1 broken 3 -1 s']);
    expect(outcomes(rows, 'when r rises, a until c')[0]).toMatch(/^1 broken 4 /);
    // Without a time b need not come: a held to the end of the run.
    expect(outcomes([row(0), row(1, 'ra'), row(4, 'ra')], 'when r rises, a until b')[0]).toMatch(/^1 met 4 /);
    expect(outcomes([row(0), row(1, 'ra'), row(4, 'ra')], 'when r rises, a until b within 9 s')).toEqual(['1 open 4 -']);
  });
});

describe('what begins right after the deadline', () => {
  // x passes 2 m at 3 s exactly, so that x > 2 m is not yet true then.
  const csv = ['time[s],r,x[m]', '0,FALSE,0', '1,TRUE,0', '5,TRUE,4', '9,TRUE,4'].join('\n');
  it('comes too late, by nothing', () => {
    const said = (sentence: string): string[] =>
      judgeCsv(csv, sentence).obligations.map(({ outcome, at, margin }) => `${outcome} ${at} ${margin?.value} ${margin?.unit}`);
    expect(said('when r rises, within 2 s x > 2 m for 1 s')).toEqual(['broken 3 0 s']);
    expect(said('when r rises, r until x > 2 m within 2 s')).toEqual(['broken 3 0 s']);
    expect(said('when r rises, r until x >= 2 m within 2 s')[0]).toMatch(/^met 3 /);
  });
});

describe('while S for D', () => {
  // r holds on [1, 2) and on [3, 6).
  const rows = [row(0), row(1, 'r'), row(2), row(3, 'ra'), row(6), row(9)];
  it('is owed once S has lasted so long, as long as it goes on', () => {
    expect(outcomes(rows, 'while r for 2 s, a')[0]).toMatch(/^5 met 6 /);
    expect(outcomes(rows, 'while r for 1 s, a')[0]).toMatch(/^4 met 6 /);
    expect(outcomes(rows, 'while r for 500 ms, a').map((one) => one.slice(0, 10))).toEqual(['1.5 broken', expect.stringMatching(/^3.5 met 6/)]);
  });
  it('owes nothing of what lasts no longer', () => expect(outcomes(rows, 'while r for 3 s, a')).toEqual([]));
});

describe('if S for D, and sequences', () => {
  it('is owed when S has lasted so long, once for each stretch', () =>
    expect(outcomes([row(0), row(1, 'r'), row(2), row(3, 'r'), row(6, 'ra'), row(9, 'a')], 'if r for 2 s, a')[0]).toMatch(/^5 broken 5 /));
  it('the awaited event must be the next', () => {
    const rows = [row(0), row(1, 'a'), row(2, 'ab'), row(3, 'abc'), row(9, 'abc')];
    expect(outcomes(rows, 'sequence a rises then b rises then c rises within 5 s')).toEqual(['1 met 3 3 s']);
    expect(outcomes(rows, 'sequence a rises then c rises then b rises')).toEqual(['1 broken 2 -']);
    expect(outcomes(rows, 'sequence a rises then r rises within 5 s')).toEqual(['1 broken 6 >=-3 s']);
    expect(outcomes(rows, 'sequence a rises then r rises')).toEqual(['1 open 9 -']);
  });
});

describe('what stands beside a sentence, and what is told', () => {
  it.each([
    ['when r rises, within 2 s a for 3 s', 'G (↑r → F[0,2] G[0,3) a)'],
    ['when r rises, after 2 s a', 'G (↑r → G[2,∞) a)'],
    ['when r rises, between 1 s and 3 s a', 'G (↑r → G[0,1) ¬a ∧ F[1,3] a)'],
    ['when r rises, a until b', 'G (↑r → a W b)'],
    ['when r rises, a until b within 5 s', 'G (↑r → a U[0,5] b)'],
    ['if r for 2 s, a', 'G (↑H(0,2] r → a)'],
    ['sequence a rises then b rises then c rises', 'G (↑a → ¬↑c U (↑b ∧ F ↑c))'],
  ])('%s', (text, wanted) => expect(stl(text)).toBe(wanted));
  it.each([
    ['if r, a', '"for" is missing before ",".'],
    ['when r rises, between 3 s and 1 s a', 'The window ends before it begins.'],
    ['sequence a rises', 'A sequence has at least two events; "then" is missing before the end.'],
    ['when r rises, a until b within c', 'A time is missing after "within".'],
  ])('%s', (text, wanted) => expect(fault(text)).toBe(wanted));
  it('after, between, if and sequence stay names elsewhere', () => expect(parseSentence('when after rises, between > 3').faults).toEqual([]));
});
