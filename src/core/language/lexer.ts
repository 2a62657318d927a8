import type { Span, TextFault } from './ast';
import { readTimeBody } from './duration';

export type TokenKind = 'name' | 'number' | 'time' | 'symbol' | 'pragma' | 'end';

export interface Token {
  readonly kind: TokenKind;
  readonly text: string;
  readonly span: Span;
  /** Numbers: the value; TIME literals: nanoseconds. */
  readonly value?: number;
  /** Numbers: written without point or exponent. */
  readonly whole?: boolean;
  /** Typed literals such as `REAL#1.5`: the type before the sign. */
  readonly type?: string;
}

const rules = {
  /** Blanks and comments; one that is never closed goes to the end of the text. */
  space: /[ \t\r\n]+|\/\/[^\n]*|\(\*[\s\S]*?(?:\*\)|$)/y,
  time: /(?:TIME|T)#(-?)([0-9][0-9A-Za-z_.]*)/iy,
  based: /(?:([A-Z]+)#)?(16|8|2)#([0-9A-Fa-f_]+)/iy,
  number: /(?:([A-Z]+)#)?(\d[\d_]*)(\.\d[\d_]*)?([eE][+-]?\d+)?/iy,
  /** A name, or a value of an enumeration with its type: `Mode#Run`. */
  name: /[A-Za-z_][A-Za-z0-9_]*(?:#[A-Za-z_][A-Za-z0-9_]*)?/y,
  symbol: /:=|=>|<=|>=|<>|\.\.|\*\*|\+-|±|[-+*/()<>=&,;.:[\]%]/y,
  pragma: /\{[^{}]*\}/y,
};

/** Longest text the lexer takes; a formula or routine beyond it is a mistake, not a program. */
const longestText = 1_000_000;

/**
 * Cuts Structured Text or a criterion's sentence into tokens. Goes on after a stray character, so that all faults are found.
 * The last token is always of kind `end`.
 */
export function tokenize(text: string): { tokens: Token[]; faults: TextFault[] } {
  const lexer = new Lexer(text.slice(0, longestText));
  if (text.length > longestText) {
    lexer.faults.push({
      span: { from: longestText, until: text.length },
      code: 'syntax',
      message: `The text has ${text.length} characters; at most ${longestText} are read.`,
      fix: 'Split it into several components.',
    });
  }
  return { tokens: lexer.tokens(), faults: lexer.faults };
}

class Lexer {
  readonly faults: TextFault[] = [];
  private at = 0;

  constructor(private readonly source: string) {}

  tokens(): Token[] {
    const { source } = this;
    const tokens: Token[] = [];
    while (this.at < source.length) {
      if (this.passSpace()) continue;
      const first = source.charCodeAt(this.at);
      const token =
        letter(first) || digit(first) ? (this.readTimeIfAny() ?? this.readBased() ?? this.readNumber() ?? this.readName()) : this.readSymbol();
      if (token) {
        tokens.push(token);
        this.at = token.span.until;
      } else {
        this.passStray();
      }
    }
    tokens.push({ kind: 'end', text: '', span: { from: source.length, until: source.length } });
    return tokens;
  }

  /** Passes over blanks or a comment. @returns false where there are none */
  private passSpace(): boolean {
    const { at, source } = this;
    const first = source.charCodeAt(at);
    const space = blank(first) || first === slash || first === parenthesis ? this.match(rules.space) : null;
    if (!space) return false;
    if (space[0].startsWith('(*') && !(space[0].length >= 4 && space[0].endsWith('*)')))
      this.faults.push({ span: { from: at, until: at + 2 }, code: 'syntax', message: 'This comment is never closed.', fix: 'End it with *).' });
    this.at += space[0].length;
    return true;
  }

  private passStray(): void {
    const { at } = this;
    this.faults.push({
      span: { from: at, until: at + 1 },
      code: 'syntax',
      message: `The character "${this.source[at]}" is not understood here.`,
      fix: 'Remove it, or write the operator in Structured Text.',
    });
    this.at += 1;
  }

  private match(rule: RegExp): RegExpExecArray | null {
    rule.lastIndex = this.at;
    return rule.exec(this.source);
  }

  private spanOf(found: RegExpExecArray): Span {
    return { from: this.at, until: this.at + found[0].length };
  }

  /** Typed literals need a # near by; most words have none. */
  private hasSign(): boolean {
    const { at, source } = this;
    for (let i = at; i < source.length; i += 1) {
      const code = source.charCodeAt(i);
      if (code === sign) return true;
      if (!letter(code) && !digit(code)) return false;
    }
    return false;
  }

  private readTimeIfAny(): Token | undefined {
    const found = this.hasSign() ? this.match(rules.time) : null;
    if (!found) return undefined;
    const nanoseconds = readTimeBody(found[2] ?? '');
    if (typeof nanoseconds === 'string') {
      this.faults.push({ span: this.spanOf(found), code: 'time', message: `${nanoseconds}.`, fix: 'Write it like T#2.5s or T#1m30s.' });
    }
    const value = typeof nanoseconds === 'string' ? 0 : nanoseconds;
    return { kind: 'time', text: found[0], span: this.spanOf(found), value: found[1] === '-' ? -value : value };
  }

  private readBased(): Token | undefined {
    const found = this.hasSign() ? this.match(rules.based) : null;
    if (!found) return undefined;
    const value = Number.parseInt((found[3] ?? '').replace(/_/g, ''), Number(found[2]));
    return { kind: 'number', text: found[0], span: this.spanOf(found), value, whole: true, ...(found[1] ? { type: found[1].toUpperCase() } : {}) };
  }

  private readNumber(): Token | undefined {
    const found = digit(this.source.charCodeAt(this.at)) || this.hasSign() ? this.match(rules.number) : null;
    if (!found) return undefined;
    const [, type, whole, fraction, exponent] = found;
    return {
      kind: 'number',
      text: found[0],
      span: this.spanOf(found),
      value: Number(`${whole}${fraction ?? ''}${exponent ?? ''}`.replace(/_/g, '')),
      whole: fraction === undefined && exponent === undefined,
      ...(type ? { type: type.toUpperCase() } : {}),
    };
  }

  private readName(): Token | undefined {
    const name = this.match(rules.name);
    return name ? { kind: 'name', text: name[0], span: this.spanOf(name) } : undefined;
  }

  private readSymbol(): Token | undefined {
    const pragma = this.match(rules.pragma);
    if (pragma) return { kind: 'pragma', text: pragma[0], span: this.spanOf(pragma) };
    const symbol = this.match(rules.symbol);
    return symbol ? { kind: 'symbol', text: symbol[0], span: this.spanOf(symbol) } : undefined;
  }
}

const [sign, slash, parenthesis, underscore] = [...'#/(_'].map((one) => one.charCodeAt(0)) as [number, number, number, number];

function blank(code: number): boolean {
  return code === 32 || (code >= 9 && code <= 13);
}

function digit(code: number): boolean {
  return code >= 48 && code <= 57;
}

function letter(code: number): boolean {
  return (code >= 65 && code <= 90) || (code >= 97 && code <= 122) || code === underscore;
}
