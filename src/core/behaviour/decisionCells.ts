import { numberOfValue, typeWords } from '@/core/formula';
import type { Enumeration } from '@/core/plan';
import type { Scalar } from '@/core/shapes';

type Operator = '=' | '<' | '<=' | '>' | '>=';

/** What a rule asks of one condition: all its tests at once. */
export interface Cell {
  readonly tests: readonly { readonly operator: Operator; readonly value: number }[];
}

export interface Rule {
  /** By condition; nothing where the rule does not care. */
  readonly cells: readonly (Cell | undefined)[];
}

/** One value that stands for a stretch of answers. */
export interface Answer {
  readonly value: number;
  readonly words: string;
}

/** What a condition may come to. */
export interface Answers {
  readonly isTruth: boolean;
  readonly isWhole: boolean;
  readonly enumeration?: Enumeration;
}

const mostCombinations = 200_000;
const number = String.raw`[-+]?\d+(?:\.\d+)?(?:e[-+]?\d+)?`;

/** Reads a cell of the table. @returns a sentence when it cannot be read */
export function readCell(written: Scalar, { isTruth, enumeration }: Answers): Cell | string {
  if (enumeration) {
    const value = numberOfValue(String(written), enumeration);
    return value === undefined ? `"${String(written)}" is no value of ${typeWords(enumeration)}` : { tests: [{ operator: '=', value }] };
  }
  if (isTruth) {
    const word = String(written).toUpperCase();
    return word === 'TRUE' || word === 'FALSE'
      ? { tests: [{ operator: '=', value: word === 'TRUE' ? 1 : 0 }] }
      : `"${String(written)}" is neither TRUE nor FALSE`;
  }
  const text = String(written).trim();
  const plain = new RegExp(`^(?:(<=|>=|<|>|=)\\s*)?(${number})$`, 'i').exec(text);
  if (plain) return { tests: [{ operator: (plain[1] ?? '=') as Operator, value: Number(plain[2]) }] };
  const range = new RegExp(`^(${number})\\s*\\.\\.\\s*(${number})$`, 'i').exec(text);
  if (!range) return `"${text}" cannot be read`;
  const [low, high] = [Number(range[1]), Number(range[2])];
  return low <= high
    ? {
        tests: [
          { operator: '>=', value: low },
          { operator: '<=', value: high },
        ],
      }
    : `the range ${text} is empty`;
}

/** The answers to a condition that its cells can tell apart: each limit, and a value between neighbours. */
export function cellsOf(cells: readonly (Cell | undefined)[], { isTruth, isWhole, enumeration }: Answers): Answer[] {
  if (enumeration) return enumeration.values.map((name, value) => ({ value, words: `is ${name}` }));
  if (isTruth)
    return [
      { value: 0, words: 'is FALSE' },
      { value: 1, words: 'is TRUE' },
    ];
  const limits = [...new Set(cells.flatMap((cell) => cell?.tests.map((test) => test.value) ?? []))].sort((a, b) => a - b);
  const [first, last] = [limits[0], limits.at(-1)];
  if (first === undefined || last === undefined) return [{ value: 0, words: 'is anything' }];
  const between = limits.slice(1).flatMap((limit, index): Answer[] => {
    const before = limits[index] as number;
    const value = isWhole ? Math.floor(before) + 1 : (before + limit) / 2;
    return value < limit ? [{ value, words: `is between ${before} and ${limit}` }] : [];
  });
  return [
    { value: first - 1, words: `is below ${first}` },
    ...limits.map((limit) => ({ value: limit, words: `is ${limit}` })),
    ...between,
    { value: last + 1, words: `is above ${last}` },
  ];
}

/** All combinations of answers, one by one; says so instead when there are too many. */
export function* everyCell(axes: readonly (readonly Answer[])[]): Generator<readonly Answer[] | 'too many'> {
  const count = axes.reduce((product, axis) => product * axis.length, 1);
  if (count > mostCombinations) {
    yield 'too many';
    return;
  }
  for (let index = 0; index < count; index += 1) {
    let rest = index;
    yield axes.map((axis) => {
      const answer = axis[rest % axis.length] as Answer;
      rest = Math.floor(rest / axis.length);
      return answer;
    });
  }
}

export function matches(rule: Rule, combination: readonly Answer[]): boolean {
  return rule.cells.every((cell, index) => cell === undefined || cell.tests.every((test) => holds(test, (combination[index] as Answer).value)));
}

function holds({ operator, value }: Cell['tests'][number], answer: number): boolean {
  switch (operator) {
    case '=':
      return answer === value;
    case '<':
      return answer < value;
    case '<=':
      return answer <= value;
    case '>':
      return answer > value;
    case '>=':
      return answer >= value;
  }
}
