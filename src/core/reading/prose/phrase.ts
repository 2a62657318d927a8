import type { Token } from './tokens';

/** Where a pattern was found in a phrase: its tokens, and those before and behind. */
export interface Found {
  readonly before: Phrase;
  readonly match: Phrase;
  readonly behind: Phrase;
  readonly groups: Readonly<Record<string, string | undefined>>;
}

/** A run of tokens, looked at as text with one blank between them so that patterns can be laid over it. */
export class Phrase {
  readonly text: string;
  private readonly starts: number[] = [];

  constructor(readonly tokens: readonly Token[]) {
    let text = '';
    for (const token of tokens) {
      if (text !== '') text += ' ';
      this.starts.push(text.length);
      text += token.text;
    }
    this.text = text;
  }

  get isEmpty(): boolean {
    return this.tokens.length === 0;
  }

  /** The first place of a pattern; its ends fall on the borders of tokens. */
  find(pattern: RegExp): Found | undefined {
    const match = pattern.exec(this.text);
    if (!match) return undefined;
    const text = match[0].trimEnd();
    const from = this.tokenAt(match.index + (text.length - text.trimStart().length));
    const until = this.tokenAt(match.index + text.length - 1) + 1;
    return { before: this.part(0, from), match: this.part(from, until), behind: this.part(until), groups: match.groups ?? {} };
  }

  has(pattern: RegExp): boolean {
    return pattern.test(this.text);
  }

  part(from: number, until = this.tokens.length): Phrase {
    return new Phrase(this.tokens.slice(from, until));
  }

  with(other: Phrase): Phrase {
    return new Phrase([...this.tokens, ...other.tokens]);
  }

  /** Without what a pattern covers, wherever it stands. */
  without(pattern: RegExp): Phrase {
    const found = this.find(pattern);
    return found ? found.before.with(found.behind).without(pattern) : this;
  }

  private tokenAt(offset: number): number {
    const at = this.starts.findIndex((start) => start > offset);
    return (at < 0 ? this.starts.length : at) - 1;
  }
}
