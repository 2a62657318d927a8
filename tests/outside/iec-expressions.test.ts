import { describe, expect, it } from 'vitest';
import { parseExpression, printExpression } from '@/core/language';
import { alone, column, projectOf, runCase } from '../support/project';

// Source: IEC 61131-3, third edition, operators of Structured Text and their precedence (values from memory of the standard's rules:
// negation binds tighter than **, operators of equal rank group from the left, integer division cuts towards zero, MOD takes the dividend's sign).
const numbers: readonly (readonly [text: string, wanted: number])[] = [
  ['2 + 3 * 4', 14],
  ['(2 + 3) * 4', 20],
  ['2.0 * 3.0 ** 2.0', 18],
  ['-2.0 ** 2.0', 4],
  ['2.0 ** 3.0 ** 2.0', 64],
  ['10 - 4 - 3', 3],
  ['7 / 2', 3],
  ['-7 / 2', -3],
  ['7 MOD 3', 1],
  ['-7 MOD 3', -1],
  ['7 MOD -3', 1],
  ['7.0 / 2', 3.5],
  ['16#FF', 255],
  ['2#1010_1010', 170],
  ['1_000', 1000],
  ['MAX(3, 5, 4)', 5],
  ['MIN(3, 5, 4)', 3],
  ['LIMIT(0, 7, 5)', 5],
  ['SEL(TRUE, 1, 2)', 2],
  ['SEL(FALSE, 1, 2)', 1],
  ['ABS(-3.5)', 3.5],
  ['SQRT(2.25)', 1.5],
  ['LREAL_TO_DINT(2.5)', 2],
  ['LREAL_TO_DINT(3.5)', 4],
  ['LREAL_TO_DINT(-2.5)', -2],
  ['TRUNC(-2.7)', -2],
  ['EXP(0)', 1],
  ['LN(1)', 0],
  ['LOG(1000)', 3],
  ['LREAL#0.1 + 0.2', 0.30000000000000004],
];
const truths: readonly (readonly [text: string, wanted: boolean])[] = [
  ['TRUE OR FALSE AND FALSE', true],
  ['NOT FALSE AND FALSE', false],
  ['TRUE XOR TRUE OR TRUE', true],
  ['FALSE & TRUE OR TRUE', true],
  ['1 + 1 = 2 AND 3 < 4', true],
  ['1 < 2 = 3 < 4', true],
  ['1 < 2 <> 3 > 4', true],
  ['NOT (1 >= 2)', true],
  ['5 MOD 2 = 1', true],
  ['T#1m30s = T#90s', true],
  ['T#500ms < T#1s', true],
  ['true', true],
];

function evaluate(expression: string, type: string): number {
  const text = `component: E\noutputs: { out: { type: ${type} } }\nbehaviour:\n  kind: chart\n  period: 1 s\n  regions: { r: { initial: S, states: { S: { entry: "out := ${expression};" } } } }\n`;
  return column(runCase(alone(text, 'E', '{ method: runge-kutta-4, step: 1 s }', '1 s')).trace, 'c.out').data[0]!;
}

describe('expressions of Structured Text', () => {
  it.each(numbers)('%s = %d', (text, wanted) => expect(evaluate(text, 'LREAL')).toBe(wanted));
  it.each(truths)('%s is %s', (text, wanted) => expect(evaluate(text, 'BOOL')).toBe(wanted ? 1 : 0));

  it.each([...numbers, ...truths])('prints %s so that it reads back the same', (text) => {
    const first = parseExpression(text);
    const printed = printExpression(first.expression!);
    const again = parseExpression(printed);
    expect(again.faults).toEqual([]);
    expect(printExpression(again.expression!)).toBe(printed);
  });

  it('keeps REAL to 32 bits', () => expect(evaluate('REAL#0.1 + REAL#0.2', 'REAL')).toBe(Math.fround(Math.fround(0.1) + Math.fround(0.2))));

  it.each([
    ['INT overflow', 'n: { type: INT, start: 32767 }', 'n := n + 1;', 'integer overflow'],
    ['division by zero', 'n: { type: LREAL, start: 0 }', 'n := 1.0 / n;', 'division by zero'],
    ['integer division by zero', 'n: { type: INT, start: 0 }', 'n := 7 / n;', 'division by zero'],
    ['root of a negative', 'n: { type: LREAL, start: -1 }', 'n := SQRT(n);', 'square root of a negative'],
    ['logarithm of zero', 'n: { type: LREAL, start: 0 }', 'n := LN(n);', 'logarithm'],
    ['conversion out of range', 'n: { type: LREAL, start: 1e6 }\n    m: { type: INT }', 'm := LREAL_TO_INT(n);', 'integer overflow'],
  ])('%s ends the run with an error that names line and time', (_, variable, statement, what) => {
    const text = `component: E\nbehaviour:\n  kind: chart\n  period: 1 s\n  variables:\n    ${variable}\n  regions: { r: { initial: S, states: { S: { stay: "${statement}" } } } }\n`;
    const { result } = runCase(alone(text, 'E', '{ method: runge-kutta-4, step: 1 s }', '3 s'));
    expect(result.verdict).toBe('error');
    expect(result.error?.message).toContain(what);
    expect(result.error?.message).toMatch(/components\/c\.yaml:\d+:\d+/);
    expect(result.error?.at).toBe(1);
  });

  it('refuses what the standard does not allow, with place', () => {
    const cases = {
      'LREAL to INT': ['INT', '1.5'],
      'BOOL to number': ['LREAL', 'TRUE'],
      'number to BOOL': ['BOOL', '1'],
      'ordered BOOL': ['BOOL', 'TRUE < FALSE'],
    };
    for (const [type, expression] of Object.values(cases)) {
      const text = `component: E\noutputs: { out: { type: ${type} } }\nbehaviour:\n  kind: chart\n  period: 1 s\n  regions: { r: { initial: S, states: { S: { entry: "out := ${expression};" } } } }\n`;
      expect(projectOf({ 'components/e.yaml': text }).faults.map((fault) => fault.code)).toEqual(['type']);
    }
  });
});
