import { remember } from '@/core/memory';
import type { BinaryOperator, Expression, Index, Span, Target, TextFault } from './ast';
import { type Token, tokenize } from './lexer';

/** Deepest nesting of parentheses, calls and statements that is read; keeps the stack safe from hostile text. */
const deepest = 200;

/** Most terms of one chain of operators: what is made of them nests as deep. */
const mostTerms = 1000;

/**
 * Binary operators by binding, loosest first: IEC 61131-3, third edition, table of ST operators
 * (from memory: negation and NOT bind tighter than `**`; all binary operators group from the left).
 */
const levels: readonly (readonly BinaryOperator[])[] = [
  ['OR'],
  ['XOR'],
  ['AND'],
  ['=', '<>'],
  ['<', '>', '<=', '>='],
  ['+', '-'],
  ['*', '/', 'MOD'],
  ['**'],
];

/** Keywords that are no names. */
export const reserved: ReadonlySet<string> = new Set(
  (
    'and or xor not mod true false if then elsif else end_if case of end_case for to by do end_for while end_while repeat until end_repeat exit continue return ' +
    'var var_input var_output constant end_var array struct end_struct type end_type function_block end_function_block function end_function'
  ).split(' '),
);

/** Words and forms that a criterion's sentence adds to expressions. */
export interface Dialect {
  /** Words that end an expression (`rises`, `within` …), in small letters. */
  readonly stops: ReadonlySet<string>;
  /** Words that may follow a number and are no units. */
  readonly after: ReadonlySet<string>;
  /** Numbers may carry a unit, `y in [a, b]` and `y = r ± d` are read. */
  readonly sentence: boolean;
  readonly isUnit: (text: string) => boolean;
  /** How to write a unit that is none. */
  readonly adviseUnit: (text: string) => string;
  /** A value in another unit; nothing where they do not measure the same. */
  readonly converted: (value: number, from: string, to: string) => number | undefined;
}

const plain: Dialect = { stops: new Set(), after: new Set(), sentence: false, isUnit: () => false, adviseUnit: () => '', converted: () => undefined };

class Unreadable extends Error {}

/** Recursive-descent reader over tokens. Expressions stop at the first token that cannot go on; the caller decides what that means. */
export class Parser {
  readonly tokens: readonly Token[];
  readonly faults: TextFault[];
  private at = 0;
  private depth = 0;

  constructor(
    private readonly text: string,
    private readonly dialect: Dialect = plain,
  ) {
    const { tokens, faults } = tokenize(text);
    this.tokens = tokens;
    this.faults = faults;
  }

  get next(): Token {
    return this.tokens[Math.min(this.at, this.tokens.length - 1)] as Token;
  }

  /** The token behind the next one. */
  get second(): Token {
    return this.tokens[Math.min(this.at + 1, this.tokens.length - 1)] as Token;
  }

  /** Nothing is left to read. */
  get ended(): boolean {
    return this.next.kind === 'end';
  }

  /** The next token is this word or symbol (words without regard to case). */
  sees(text: string): boolean {
    return this.next.kind !== 'end' && this.next.text.toLowerCase() === text;
  }

  take(): Token {
    const token = this.next;
    if (token.kind !== 'end') this.at += 1;
    return token;
  }

  takeIf(text: string): Token | undefined {
    return this.sees(text) ? this.take() : undefined;
  }

  expect(text: string, fix: string): Token {
    const token = this.takeIf(text);
    if (token) return token;
    return this.fail(`"${text}" is missing before ${describe(this.next)}.`, fix);
  }

  /** Notes a fault at the next token and gives up the construct being read. */
  fail(message: string, fix: string, code: TextFault['code'] = 'syntax', span: Span = this.next.span): never {
    this.faults.push({ span, code, message, fix });
    throw new Unreadable();
  }

  /** Runs a reading; after a fault inside it, gives `undefined` instead. */
  attempt<T>(read: () => T): T | undefined {
    const depth = this.depth;
    try {
      return read();
    } catch (problem) {
      if (!(problem instanceof Unreadable)) throw problem;
      this.depth = depth;
      return undefined;
    }
  }

  /** A label of CASE begins here: a value, then a colon, a comma or dots, before anything that a statement could begin with. */
  startsLabel(): boolean {
    const before = this.at;
    const signed = this.takeIf('-');
    const value = this.take();
    let found = value.kind === 'number' || (value.kind === 'name' && signed === undefined && !reserved.has(value.text.toLowerCase()));
    while (found && this.takeIf('.')) found = this.take().kind === 'name';
    found &&= [':', ',', '..'].some((symbol) => this.sees(symbol));
    this.at = before;
    return found;
  }

  expression(): Expression {
    return this.binary(0);
  }

  /** The next token is this word, and a time follows it. */
  seesTimeAfter(word: string): boolean {
    return this.sees(word) && (this.second.kind === 'number' || this.second.kind === 'time');
  }

  /** The next token is this word, and a comma follows it. */
  seesCommaAfter(word: string): boolean {
    return this.sees(word) && this.second.text === ',';
  }

  private binary(level: number): Expression {
    const operators = levels[level];
    if (!operators) return this.unary();
    let left = this.binary(level + 1);
    for (let terms = 2; ; terms += 1) {
      const operator = this.operatorAmong(operators);
      if (!operator) return left;
      if (terms > mostTerms) this.fail(`There are more than ${mostTerms} terms in a row.`, 'Give parts of it a name of their own.', 'too-deep');
      this.take();
      const right = this.binary(level + 1);
      left = this.near(left, operator, right, level) ?? { kind: 'binary', operator, left, right, span: join(left.span, right.span) };
    }
  }

  /** `x = 3 m ± 2 cm`, in sentences. */
  private near(left: Expression, operator: BinaryOperator, target: Expression, level: number): Expression | undefined {
    if (!this.dialect.sentence || (operator !== '=' && operator !== '<>') || !(this.takeIf('±') ?? this.takeIf('+-'))) return undefined;
    const tolerance = this.binary(level + 1);
    const span = join(left.span, tolerance.span);
    const near: Expression = { kind: 'near', operand: left, target, tolerance, span };
    return operator === '=' ? near : { kind: 'unary', operator: 'NOT', operand: near, span };
  }

  private operatorAmong(operators: readonly BinaryOperator[]): BinaryOperator | undefined {
    const token = this.next;
    if (token.kind !== 'symbol' && token.kind !== 'name') return undefined;
    if (this.dialect.stops.has(token.text.toLowerCase())) return undefined;
    const text = token.text === '&' ? 'AND' : token.text.toUpperCase();
    return operators.find((operator) => operator === text);
  }

  private unary(): Expression {
    const token = this.next;
    if (token.kind === 'symbol' && (token.text === '-' || token.text === '+')) {
      this.take();
      const operand = this.deeper(() => this.unary());
      if (token.text === '+') return operand;
      return { kind: 'unary', operator: '-', operand, span: join(token.span, operand.span) };
    }
    if (token.kind === 'name' && token.text.toLowerCase() === 'not') {
      this.take();
      const operand = this.deeper(() => this.unary());
      return { kind: 'unary', operator: 'NOT', operand, span: join(token.span, operand.span) };
    }
    return this.range(this.primary());
  }

  /** `y in [a, b]`; in `count of enters S in any 1 h` the word belongs to the count. */
  private range(operand: Expression): Expression {
    if (!this.dialect.sentence || !this.sees('in') || this.second.text.toLowerCase() === 'any') return operand;
    this.take();
    const fix = 'Write a range as: level in [0.2 m, 3.1 m]';
    this.expect('[', fix);
    const low = this.expression();
    this.expect(',', fix);
    const high = this.expression();
    const end = this.expect(']', fix);
    return { kind: 'between', operand, low, high, span: join(operand.span, end.span) };
  }

  deeper<T>(read: () => T): T {
    this.depth += 1;
    if (this.depth > deepest) {
      this.fail(`The text is nested more than ${deepest} deep.`, 'Give parts of it a name of their own.', 'too-deep');
    }
    const result = read();
    this.depth -= 1;
    return result;
  }

  /** A single value, without operators. */
  primary(): Expression {
    const token = this.next;
    if (token.kind === 'number') return this.number();
    if (token.kind === 'time') {
      this.take();
      return { kind: 'time', nanoseconds: token.value ?? 0, span: token.span };
    }
    if (this.sees('(')) {
      this.take();
      const inside = this.deeper(() => this.expression());
      const end = this.expect(')', 'Close every parenthesis that is opened.');
      return { ...inside, span: join(token.span, end.span) };
    }
    if (token.kind === 'name') {
      const word = token.text.toLowerCase();
      if (word === 'true' || word === 'false') {
        this.take();
        return { kind: 'boolean', value: word === 'true', span: token.span };
      }
      if (this.dialect.sentence && word === 'rate' && this.second.text.toLowerCase() === 'of') return this.rate();
      if (!reserved.has(word) && !this.dialect.stops.has(word)) return this.nameOrCall();
    }
    return this.fail(`A value is missing before ${describe(token)}.`, 'Put a signal, a number, TRUE, FALSE or a function call here.');
  }

  /** `rate of y` */
  private rate(): Expression {
    const { span } = this.take();
    this.take();
    const operand = this.deeper(() => this.primary());
    return { kind: 'rate', operand, span: join(span, operand.span) };
  }

  private number(): Expression {
    const token = this.take();
    const number = {
      kind: 'number',
      value: token.value ?? 0,
      whole: token.whole ?? false,
      span: token.span,
      ...(token.type ? { type: token.type } : {}),
    } as const;
    if (!this.dialect.sentence) return number;
    const unit = this.unitAfter(token);
    return unit ? this.withSmaller({ ...number, unit: unit.text, span: { from: token.span.from, until: unit.until } }) : number;
  }

  /** `10 min 2 s`: a time in several units, from large to small, is one in the smallest of them. */
  private withSmaller(first: Expression & { readonly kind: 'number'; readonly unit: string }): Expression {
    const { dialect } = this;
    if (dialect.converted(1, first.unit, 's') === undefined || this.next.kind !== 'number') return first;
    const start = this.next;
    const second = this.number();
    const unit = second.kind === 'number' ? second.unit : undefined;
    const inSmaller = unit === undefined ? undefined : dialect.converted(first.value, first.unit, unit);
    if (second.kind !== 'number' || unit === undefined || inSmaller === undefined)
      return this.fail('A time in several units has a unit of time behind each number.', 'Write: 10 min 2 s', 'time', start.span);
    if ((dialect.converted(1, first.unit, unit) ?? 0) <= 1)
      return this.fail(
        `${unit} is not smaller than ${first.unit}.`,
        'Write a time from its largest unit to its smallest: 10 min 2 s',
        'time',
        start.span,
      );
    return { ...second, value: inSmaller + second.value, whole: Number.isInteger(inSmaller + second.value), span: join(first.span, second.span) };
  }

  /** A unit is read from the raw text after a number (`14 mm/s`, `80 %`), up to the next blank or bracket. */
  private unitAfter(token: Token): { text: string; until: number } | undefined {
    const reciprocal = this.reciprocalAfter(token);
    if (reciprocal) return reciprocal;
    const rule = /[ \t]*((?:[A-Za-zµμ°℃%Ω][A-Za-zµμ°℃%Ω0-9⁰¹²³⁴-⁹⁻]*)(?:[./·⋅][A-Za-zµμ°%Ω0-9⁰¹²³⁴-⁹⁻]+)*)/y;
    rule.lastIndex = token.span.until;
    const found = rule.exec(this.text);
    const text = found?.[1];
    if (!found || !text) return undefined;
    const word = text.toLowerCase();
    if (reserved.has(word) || this.dialect.stops.has(word) || this.dialect.after.has(word)) return undefined;
    const until = rule.lastIndex;
    while (this.next.kind !== 'end' && this.next.span.from < until) this.at += 1;
    this.forgive(token.span.until, until);
    if (!this.dialect.isUnit(text)) {
      this.fail(`"${text}" is not a unit.`, this.dialect.adviseUnit(text), 'unknown-unit', {
        from: until - text.length,
        until,
      });
    }
    return { text, until };
  }

  /** Characters of a unit, such as ° and ³, are none that Structured Text knows. */
  private forgive(from: number, until: number): void {
    for (let index = this.faults.length - 1; index >= 0; index -= 1) {
      const { span } = this.faults[index] as TextFault;
      if (span.from >= from && span.until <= until) this.faults.splice(index, 1);
    }
  }

  /** `1470 /min`: a unit that begins with its stroke, where no blank follows it and the unit is known; anything else divides. */
  private reciprocalAfter(token: Token): { text: string; until: number } | undefined {
    const rule = /[ \t]*(\/[A-Za-zµ]+)(?![A-Za-z0-9_.(])/y;
    rule.lastIndex = token.span.until;
    const text = rule.exec(this.text)?.[1];
    if (!text || !this.dialect.isUnit(text)) return undefined;
    const until = rule.lastIndex;
    while (this.next.kind !== 'end' && this.next.span.from < until) this.at += 1;
    return { text, until };
  }

  private nameOrCall(): Expression {
    const first = this.take();
    if (this.sees('(')) {
      this.take();
      const operands = this.deeper(() => this.operands());
      const end = this.expect(')', 'Close the list of operands.');
      return { kind: 'call', name: first.text, ...operands, span: join(first.span, end.span) };
    }
    const { path, indices, span } = this.nameBehind(first, 'Write component.signal or region.state.');
    return indices.length > 0 ? { kind: 'element', path, indices, span } : { kind: 'name', path, span };
  }

  /** The rest of a name whose first part has been taken: further parts behind dots, indices in brackets. */
  nameBehind(first: Token, fix: string): Target {
    const path = [first.text];
    const indices: Index[] = [];
    let { until } = first.span;
    for (;;) {
      if (this.takeIf('.')) {
        if (this.next.kind !== 'name') this.fail(`A name is missing after "${path.join('.')}.".`, fix);
        const part = this.take();
        path.push(part.text);
        until = part.span.until;
      } else if (this.sees('[') && !this.dialect.sentence) {
        this.take();
        do indices.push({ value: this.deeper(() => this.expression()), after: path.length });
        while (this.takeIf(','));
        until = this.expect(']', 'Close the index with a bracket.').span.until;
      } else return { path, indices, span: { from: first.span.from, until } };
    }
  }

  /** Either all operands are `name := value`, or none is. */
  private operands(): { operands: Expression[]; names?: string[] } {
    if (this.sees(')')) return { operands: [] };
    const names: string[] = [];
    const operand = (): Expression => {
      if (this.next.kind === 'name' && this.second.text === ':=') {
        names.push(this.take().text);
        this.take();
      }
      return this.expression();
    };
    const operands = [operand()];
    while (this.takeIf(',')) operands.push(operand());
    if (names.length === 0) return { operands };
    if (names.length < operands.length) this.fail('Some operands are named and some are not.', 'Name all of them (name := value), or none.');
    return { operands, names };
  }
}

export function describe(token: Token): string {
  return token.kind === 'end' ? 'the end' : `"${token.text.slice(0, 40)}"`;
}

export function join(a: Span, b: Span): Span {
  return { from: a.from, until: b.until };
}

/** Parses one expression that fills the whole text. `expression` is absent when it could not be read. */
export const parseExpression = remember((text): { readonly expression?: Expression; readonly faults: readonly TextFault[] } => {
  const parser = new Parser(text);
  const expression = parser.attempt(() => {
    const found = parser.expression();
    if (parser.next.kind !== 'end') {
      parser.fail(`${describe(parser.next)} cannot follow here.`, 'Put an operator between two values, or remove it.');
    }
    return found;
  });
  return { ...(expression ? { expression } : {}), faults: parser.faults };
});
