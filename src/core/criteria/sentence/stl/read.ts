/**
 * A formula of signal temporal logic (Maler and Nickovic 2004) as it is typed. What has no operator in time in it stays text: it is an expression of the language.
 * `↑` and `↓` are events, `⁻` is the value just before.
 */
export type Formula =
  | { readonly k: 'plain'; readonly text: string }
  | { readonly k: 'event'; readonly how: '↑' | '↓' | '⇅'; readonly of: Formula }
  | { readonly k: 'before'; readonly of: Formula }
  | { readonly k: 'not'; readonly of: Formula }
  | { readonly k: 'and' | 'or' | 'implies'; readonly a: Formula; readonly b: Formula }
  | { readonly k: 'G' | 'F' | 'H' | 'O'; readonly interval: Interval; readonly of: Formula }
  | { readonly k: 'U' | 'W' | 'S'; readonly interval: Interval; readonly a: Formula; readonly b: Formula };

/** Ends as they are written, with the unit (`2 s`); no upper end is infinity. */
export interface Interval {
  readonly from: string;
  readonly until?: string;
  readonly fromIncluded: boolean;
  readonly untilIncluded: boolean;
}

/** What cannot be read, and where in the text. */
export class NotStl extends Error {
  constructor(
    message: string,
    readonly fix: string,
    readonly at: number,
  ) {
    super(message);
  }
}

const interval = /^([[(])\s*(\d[\d.eE]*)\s*([A-Za-zµ]*)\s*,\s*(?:(\d[\d.eE]*)\s*([A-Za-zµ]*)|∞|inf)\s*([\])])/;
const always: Interval = { from: '0 s', fromIncluded: true, untilIncluded: true };
const example = 'Write it like G (↑a → F[0,2] b), or with ASCII: G (rise(a) -> F[0,2] b).';

const longest = 2_000;
const deepest = 100;
/** Blanks between an operator and its interval, at most. */
const lookedBack = 8;

/** A sentence never begins with a lone G or F, so such a text can only be meant as a formula. */
export function looksLikeStl(text: string): boolean {
  return /^\s*([GFHO]\s*[[(¬↑↓⇅]|[GFHO]\s+(?!in\b|[=<>+\-*/])\S|[¬↑↓⇅])|\s[UW]\s*\[|→|->/.test(text);
}

/** @throws NotStl where the text cannot go on */
export function readStl(text: string): Formula {
  if (text.length > longest) throw new NotStl(`A formula has at most ${longest} characters.`, 'Write several criteria.', longest);
  const reader = new Reader(text);
  const formula = reader.implies();
  reader.end();
  return formula;
}

class Reader {
  private at = 0;

  constructor(
    private readonly text: string,
    private depth = 0,
  ) {}

  implies(): Formula {
    const a = this.or();
    return this.take(/^(→|->|⇒|=>)/) ? { k: 'implies', a, b: this.deeper(() => this.implies()) } : a;
  }

  /** Keeps the stack safe from hostile text. */
  private deeper(read: () => Formula): Formula {
    if (this.depth >= deepest) throw this.refusal('This is nested too deeply.');
    this.depth += 1;
    const formula = read();
    this.depth -= 1;
    return formula;
  }

  end(): void {
    this.blanks();
    if (this.at < this.text.length) throw this.refusal(`"${this.text.slice(this.at, this.at + 12)}" cannot follow here.`);
  }

  private or(): Formula {
    let a = this.and();
    while (this.take(/^(∨|\|\||OR\b)/i)) a = { k: 'or', a, b: this.and() };
    return a;
  }

  private and(): Formula {
    let a = this.until();
    while (this.take(/^(∧|&&|AND\b)/i)) a = { k: 'and', a, b: this.until() };
    return a;
  }

  private until(): Formula {
    const a = this.unary();
    const operator = this.take(/^[UWS](?=\s*[[(]|\s)/);
    if (!operator) return a;
    const interval = this.interval() ?? always;
    return { k: operator as 'U' | 'W' | 'S', interval, a, b: this.unary() };
  }

  private unary(): Formula {
    return this.deeper(() => this.oneOf());
  }

  private oneOf(): Formula {
    if (this.take(/^(¬|!|NOT\b)/i)) return { k: 'not', of: this.unary() };
    const event = this.take(/^[↑↓⇅]/) as '↑' | '↓' | '⇅' | undefined;
    if (event) return { k: 'event', how: event, of: this.unary() };
    const named = this.take(/^(rise|fall)(?=\s*\()/);
    if (named) return { k: 'event', how: named === 'rise' ? '↑' : '↓', of: this.primary() };
    const operator = this.take(/^[GFHO](?=\s*[[(¬↑↓⇅]|\s+[^\s=<>+\-*/])/);
    if (operator) return { k: operator as 'G' | 'F' | 'H' | 'O', interval: this.interval() ?? always, of: this.unary() };
    return this.primary();
  }

  /** `[a,b]` with any mixture of round and square; a plain parenthesis after G is a formula and no interval. */
  private interval(): Interval | undefined {
    this.blanks();
    const match = interval.exec(this.text.slice(this.at));
    if (!match) return undefined;
    this.at += match[0].length;
    const [, left, from = '', fromUnit, until, untilUnit, right] = match;
    // A unit written once belongs to both ends; without one, times are seconds.
    const unit = untilUnit || fromUnit || 's';
    return {
      from: `${from} ${fromUnit || unit}`,
      ...(until === undefined ? {} : { until: `${until} ${unit}` }),
      fromIncluded: left === '[',
      untilIncluded: right === ']',
    };
  }

  private primary(): Formula {
    this.blanks();
    const found = this.text[this.at] === '(' ? this.inParentheses() : this.plain();
    return this.take(/^⁻/) ? { k: 'before', of: found } : found;
  }

  /** A formula in parentheses, unless they belong to arithmetic: `(a + b) <= 2`. */
  private inParentheses(): Formula {
    const close = this.closing();
    const after = this.text.slice(close + 1).trimStart();
    if (!/^($|[)∧∨→⁻⇒]|->|=>|&&|\|\||(AND|OR)\b|[UWS][\s[(])/i.test(after)) return this.plain();
    const inside = new Reader(this.text.slice(0, close), this.depth);
    inside.at = this.at + 1;
    const formula = inside.implies();
    inside.end();
    this.at = close + 1;
    return formula;
  }

  private closing(): number {
    let depth = 0;
    for (let index = this.at; index < this.text.length; index += 1) {
      // A half-open interval looks like a parenthesis that does not fit.
      if (/(^|[^\w.])[GFHOUWS]\s*$/.test(this.text.slice(Math.max(0, index - lookedBack), index)))
        index += interval.exec(this.text.slice(index))?.[0].length ?? 0;
      if (this.text[index] === '(') depth += 1;
      if (this.text[index] === ')') depth -= 1;
      if (depth === 0) return index;
    }
    throw this.refusal('This parenthesis is not closed.');
  }

  /** Text of an expression: up to the next operator of the logic that stands outside its parentheses and brackets. */
  private plain(): Formula {
    const start = this.at;
    let depth = 0;
    while (this.at < this.text.length) {
      const rest = this.text.slice(this.at);
      if (depth === 0 && (/^([)∧∨→⁻⇒,]|->|=>|&&|\|\|)/.test(rest) || (this.wordBegins() && /^((AND|OR|and|or)\b|[UWS](?=\s*\[|\s))/.test(rest))))
        break;
      if (/^[([]/.test(rest)) depth += 1;
      if (/^[)\]]/.test(rest)) depth -= 1;
      this.at += 1;
    }
    const text = this.text.slice(start, this.at).trim();
    if (text === '') throw this.refusal('A condition is missing here.');
    return { k: 'plain', text: text.replace(/[≤≥≠]/g, (sign) => ({ '≤': '<=', '≥': '>=', '≠': '<>' })[sign] ?? sign) };
  }

  private wordBegins(): boolean {
    return !/[A-Za-z0-9_.]/.test(this.text[this.at - 1] ?? ' ');
  }

  private take(pattern: RegExp): string | undefined {
    this.blanks();
    const match = pattern.exec(this.text.slice(this.at));
    if (!match) return undefined;
    this.at += match[0].length;
    return match[0];
  }

  private blanks(): void {
    while (/\s/.test(this.text[this.at] ?? '')) this.at += 1;
  }

  private refusal(message: string): NotStl {
    return new NotStl(message, example, this.at);
  }
}
