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
  const tokens: Token[] = [];
  const faults: TextFault[] = [];
  const source = text.slice(0, longestText);
  if (text.length > longestText) {
    faults.push({
      span: { from: longestText, until: text.length },
      code: 'syntax',
      message: `The text has ${text.length} characters; at most ${longestText} are read.`,
      fix: 'Split it into several components.',
    });
  }
  let at = 0;
  const match = (rule: RegExp): RegExpExecArray | null => {
    rule.lastIndex = at;
    return rule.exec(source);
  };
  while (at < source.length) {
    const first = source.charCodeAt(at);
    const space = blank(first) || first === slash || first === parenthesis ? match(rules.space) : null;
    if (space) {
      if (space[0].startsWith('(*') && !(space[0].length >= 4 && space[0].endsWith('*)'))) {
        faults.push({ span: { from: at, until: at + 2 }, code: 'syntax', message: 'This comment is never closed.', fix: 'End it with *).' });
      }
      at += space[0].length;
      continue;
    }
    const token = letter(first) || digit(first) ? (readTimeIfAny() ?? readBased() ?? readNumber() ?? readName()) : readSymbol();
    if (token) {
      tokens.push(token);
      at = token.span.until;
    } else {
      faults.push({
        span: { from: at, until: at + 1 },
        code: 'syntax',
        message: `The character "${source[at]}" is not understood here.`,
        fix: 'Remove it, or write the operator in Structured Text.',
      });
      at += 1;
    }
  }
  tokens.push({ kind: 'end', text: '', span: { from: source.length, until: source.length } });
  return { tokens, faults };

  function spanOf(found: RegExpExecArray): Span {
    return { from: at, until: at + found[0].length };
  }

  /** Typed literals need a # near by; most words have none. */
  function hasSign(): boolean {
    for (let i = at; i < source.length; i += 1) {
      const code = source.charCodeAt(i);
      if (code === sign) return true;
      if (!letter(code) && !digit(code)) return false;
    }
    return false;
  }

  function readTimeIfAny(): Token | undefined {
    const found = hasSign() ? match(rules.time) : null;
    if (!found) return undefined;
    const nanoseconds = readTimeBody(found[2] ?? '');
    if (typeof nanoseconds === 'string') {
      faults.push({ span: spanOf(found), code: 'time', message: `${nanoseconds}.`, fix: 'Write it like T#2.5s or T#1m30s.' });
    }
    const value = typeof nanoseconds === 'string' ? 0 : nanoseconds;
    return { kind: 'time', text: found[0], span: spanOf(found), value: found[1] === '-' ? -value : value };
  }

  function readBased(): Token | undefined {
    const found = hasSign() ? match(rules.based) : null;
    if (!found) return undefined;
    const value = Number.parseInt((found[3] ?? '').replace(/_/g, ''), Number(found[2]));
    return { kind: 'number', text: found[0], span: spanOf(found), value, whole: true, ...(found[1] ? { type: found[1].toUpperCase() } : {}) };
  }

  function readNumber(): Token | undefined {
    const found = digit(source.charCodeAt(at)) || hasSign() ? match(rules.number) : null;
    if (!found) return undefined;
    const [, type, whole, fraction, exponent] = found;
    return {
      kind: 'number',
      text: found[0],
      span: spanOf(found),
      value: Number(`${whole}${fraction ?? ''}${exponent ?? ''}`.replace(/_/g, '')),
      whole: fraction === undefined && exponent === undefined,
      ...(type ? { type: type.toUpperCase() } : {}),
    };
  }

  function readName(): Token | undefined {
    const name = match(rules.name);
    return name ? { kind: 'name', text: name[0], span: spanOf(name) } : undefined;
  }

  function readSymbol(): Token | undefined {
    const pragma = match(rules.pragma);
    if (pragma) return { kind: 'pragma', text: pragma[0], span: spanOf(pragma) };
    const symbol = match(rules.symbol);
    return symbol ? { kind: 'symbol', text: symbol[0], span: spanOf(symbol) } : undefined;
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
