import { describe, expect, it } from 'vitest';
import { judgeCsv } from '../outside/monitor/harness';
import { projectOf, runCase } from '../support/project';

/** Worked examples of docs/language.md, "Exact meaning": one line each, so that a reader can check them by hand. */
const csv = (head: string, ...rows: string[]): string => [head, ...rows].join('\n');
const outcomes = (text: string, sentence: string): string[] =>
  judgeCsv(text, sentence).obligations.map(
    ({ from, outcome, at, margin }) =>
      `${from} ${outcome} ${at} ${margin ? `${margin.atLeast ? '>=' : ''}${Number(margin.value.toFixed(9))} ${margin.unit}` : '-'}`,
  );

describe('events', () => {
  const steps = csv('time[s],p,n[1]{hold}', '0,TRUE,1', '1,FALSE,1', '2,TRUE,2', '3,TRUE,3', '4,FALSE,3');
  it('a condition already true at the first sample has not risen', () => expect(outcomes(steps, 'when p rises, n > 0')).toEqual(['2 met 2 2 1']));
  it('falls is the end of truth', () => expect(outcomes(steps, 'when p falls, n >= 1')).toEqual(['1 met 1 0 1', '4 met 4 2 1']));
  it('becomes is the beginning of an equality', () => expect(outcomes(steps, 'when n becomes 3, p')).toEqual(['3 met 3 1 s']));
  it('a number that runs straight does not "change"', () =>
    expect(() => outcomes(csv('time[s],x[m]', '0,0', '1,1'), 'when x changes, x > 0')).toThrow(/changes at an instant/));
  it('a BOOL changes both ways', () => expect(outcomes(steps, 'when p changes, n >= 1').map((one) => one.split(' ')[0])).toEqual(['1', '2', '4']));
  it('an event that ends the state still counts', () => {
    const text = csv('time[s],s,e', '0,TRUE,FALSE', '2,FALSE,TRUE', '4,FALSE,FALSE');
    expect(outcomes(text, 'when e rises while s, e')).toEqual(['2 met 2 0 s']);
    expect(outcomes(text, 'when s falls while s, within 1 s e')).toEqual(['2 met 2 1 s']);
  });
  it('a crossing lies where the straight line meets the level', () => {
    expect(outcomes(csv('time[s],x[m]', '0,0', '4,8'), 'when x crosses 2 m upward, x >= 2 m')).toEqual(['1 met 1 0 m']);
    expect(outcomes(csv('time[s],x[m]', '0,8', '4,0'), 'when x crosses 2 m downward, x <= 2 m')).toEqual(['3 met 3 0 m']);
  });
});

describe('quantities', () => {
  const squares = csv('time[s],x[1]{hold},n[1]{hold}', '0,4,0', '1,9,1', '2,16,1');
  it.each([
    ['SQRT(x) > 1.0', 1],
    ['LN(x) > 1.0', 0.386294361],
    ['EXP(x) > 50.0', 4.598150033],
    ['x ** 0.5 > 1.0', 1],
    ['x / (n + 1.0) > 1.0', 3],
    ['MIN(x, 5.0) > 1.0', 3],
    ['LIMIT(0.0, x, 7.0) > 1.0', 3],
    ['ABS(x - 9.0) < 8.0', 1],
    ['SEL(n > 0.5, 6.0, x) > 1.0', 5],
    ['MUX(LREAL_TO_INT(n), 6.0, x) > 1.0', 5],
    ['SIN(x / 20.0) > 0.0', 0.198669331],
  ])('%s', (sentence, margin) => expect(outcomes(squares, `always ${sentence}`)).toEqual([`0 met 2 ${margin} 1`]));
});

describe('spans and deadlines', () => {
  const request = (at: number): string => csv('time[s],r,a', '0,FALSE,FALSE', '1,TRUE,FALSE', `${at},TRUE,TRUE`, '9,TRUE,TRUE');
  it('within is closed: met at exactly the deadline, margin 0', () =>
    expect(outcomes(request(3), 'when r rises, within 2 s a')).toEqual(['1 met 3 0 s']));
  it('late is broken at the deadline, by the lateness', () =>
    expect(outcomes(request(3.4), 'when r rises, within 2 s a')).toEqual(['1 broken 3 -0.4 s']));
  it('never is broken by at least the time to the end', () =>
    expect(outcomes(csv('time[s],r,a', '0,FALSE,FALSE', '1,TRUE,FALSE', '9,TRUE,FALSE'), 'when r rises, within 2 s a')).toEqual([
      '1 broken 3 >=-6 s',
    ]));
  it('a trace too short leaves it open', () =>
    expect(outcomes(csv('time[s],r,a', '0,FALSE,FALSE', '1,TRUE,FALSE', '2,TRUE,FALSE'), 'when r rises, within 2 s a')).toEqual(['1 open 2 -']));
  it('sums of decimal times do not decide a deadline', () => {
    const text = csv('time[s],r,a', '0,FALSE,FALSE', '0.1,TRUE,FALSE', '0.3,TRUE,TRUE', '1,TRUE,TRUE');
    expect(outcomes(text, 'when r rises, within 200 ms a')).toEqual(['0.1 met 0.3 0 s']);
  });
  it('for is open at its end: held exactly so long is enough', () => {
    const text = csv('time[s],r,a', '0,FALSE,FALSE', '1,TRUE,TRUE', '3,TRUE,FALSE', '5,TRUE,FALSE');
    expect(outcomes(text, 'when r rises, for 2 s a')).toEqual(['1 met 3 0 s']);
    expect(outcomes(text, 'when r rises, for 2.5 s a')).toEqual(['1 broken 3 -0.5 s']);
  });
  it('while owes on just its spans: no overlap with the next mode', () => {
    const text = csv('time[s],m[1]{hold},x[m]{hold}', '0,1,1', '2,2,9', '4,1,1', '6,1,1');
    expect(outcomes(text, 'while m = 1, x <= 5 m')).toEqual(['0 met 2 4 m', '4 met 6 4 m']);
  });
  it('two events may overlap: each makes its own obligation', () => {
    const text = csv('time[s],r,a', '0,FALSE,FALSE', '1,TRUE,FALSE', '2,FALSE,FALSE', '3,TRUE,FALSE', '4,TRUE,TRUE', '9,TRUE,TRUE');
    expect(outcomes(text, 'when r rises, within 5 s a')).toEqual(['1 met 4 2 s', '3 met 4 4 s']);
  });
});

describe('margins', () => {
  it('an infinite one becomes the least shift in time', () => {
    const text = csv('time[s],a,b', '0,FALSE,FALSE', '10,TRUE,FALSE', '20,FALSE,FALSE', '30,FALSE,TRUE', '40,FALSE,FALSE');
    expect(outcomes(text, 'never a AND b')).toEqual(['0 met 40 5 s']);
  });
  it('where no shift would change anything there is none', () =>
    expect(outcomes(csv('time[s],a', '0,FALSE', '9,FALSE'), 'never a')).toEqual(['0 met 9 -']));
  it('unlike units are compared by their limits, and the nearer one is shown in its own', () => {
    const text = csv('time[s],x[m],v[kPa]', '0,9,100', '1,9,100');
    // 1 m of 10 is nearer than 100 kPa of 200.
    expect(outcomes(text, 'always x <= 10 m AND v <= 200 kPa')).toEqual(['0 met 1 1 m']);
    expect(outcomes(text, 'always x <= 100 m AND v <= 101 kPa')).toEqual(['0 met 1 1 kPa']);
  });
  it('a stated tolerance is the measure', () =>
    expect(outcomes(csv('time[s],x[m]', '0,3', '1,3.05'), 'always x = 3 ± 0.08 m')).toEqual(['0 met 1 0.03 m']));
  it('ABS bends between samples', () => expect(outcomes(csv('time[s],x[m]', '0,-2', '4,2'), 'always ABS(x) >= 1 m')).toEqual(['0 broken 1 -1 m']));
});

describe('missing values and hidden conditions', () => {
  it('a missing value inside an obligation leaves it open with the reason', () => {
    const judged = judgeCsv(csv('time[s],x[m]', '0,1', '1,', '2,1'), 'always x <= 5 m');
    expect(judged).toMatchObject({ verdict: 'inconclusive', obligations: [{ outcome: 'open', reason: 'a value is missing inside the obligation' }] });
    expect(judgeCsv(csv('time[s],x[m]', '0,9', '1,', '2,1'), 'always x <= 5 m').verdict).toBe('fail');
  });
  it('an invariant whose condition never held is untriggered', () => {
    const text = csv('time[s],s,p', '0,FALSE,FALSE', '5,FALSE,FALSE');
    expect(judgeCsv(text, 'always NOT s OR p').verdict).toBe('none');
    expect(judgeCsv(text, 'while s, p').verdict).toBe('none');
  });
});

describe('recorded files', () => {
  it.each([
    ['wrong first column', 't,x\n0,1', 'first column'],
    ['no rows', 'time[s],x', 'no rows'],
    ['time goes back', 'time[s],x\n1,0\n0,0', 'goes back'],
    ['not a number', 'time[s],x\n0,1\n1,abc', '"abc"'],
    ['column twice', 'time[s],x,X\n0,1,1', 'stands twice'],
    ['title', 'time[s],a b\n0,1', 'is not name'],
    ['too many cells', 'time[s],x\n0,1,2', '3 cells'],
    ['time missing', 'time[s],x\n,1', 'not a time'],
  ])('%s is told with its line', (_, text, message) => expect(() => judgeCsv(text, 'always x > 0')).toThrow(message));
});

describe('a run that does not count', () => {
  it('a range left gives breaks but no pass', () => {
    const project = projectOf({
      'components/t.yaml': 'component: T\noutputs: { y: { type: LREAL, unit: m, max: 3 } }\nbehaviour: { kind: equations, outputs: { y: time } }\n',
      'loops/l.yaml': 'loop: l\ncomponents: { t: { use: T } }\nsolver: { method: runge-kutta-4, step: 100 ms }\nstop: 5 s\n',
      'cases/c.yaml': 'case: c\nloop: l\n',
      'requirements/r.yaml':
        'section: s\nrequirements: [{ requirement: R1, text: t, criteria: [{ criterion: c, sentence: always y <= 9 m, accepted: { by: t, on: "2026-11-01" } }] }]\n',
    });
    const { result } = runCase(project);
    expect(result.verdict).toBe('pass');
    expect(result.implausible.map((one) => one.signal)).toEqual(['t.y']);
  });
});
