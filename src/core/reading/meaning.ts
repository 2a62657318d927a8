import type { ReadWord } from './types';

/** A condition as a sentence writes it, and how sure it is. */
export interface Meaning {
  /** Structured Text. */
  readonly text: string;
  /** What it is at the top: decides where parentheses and NOT belong. */
  readonly top: 'atom' | 'comparison' | 'and' | 'or';
  /** A state by itself: it is entered and left. */
  readonly state?: boolean;
  /** It says that a truth is not so. */
  readonly denied?: boolean;
  /** 0 to 1. */
  readonly score: number;
  readonly words: readonly ReadWord[];
  readonly supposed: readonly string[];
}

const contrary: Readonly<Record<string, string>> = { '<': '>=', '<=': '>', '>': '<=', '>=': '<' };

/** The contrary, written as briefly as can be. */
export function negated(meaning: Meaning): Meaning {
  const { text, top, denied, state, ...rest } = meaning;
  if (denied && top === 'atom') return { ...rest, text: text.replace(/^NOT /, ''), top };
  const compared = top === 'comparison' ? /^(.*?) (<=|>=|<|>) (.*)$/.exec(text) : null;
  if (compared) return { ...rest, top, text: `${compared[1]} ${contrary[compared[2] ?? '']} ${compared[3]}` };
  return { ...rest, top: 'atom', denied: true, text: `NOT ${top === 'atom' ? text : `(${text})`}` };
}

/** Several conditions as one. */
export function joined(k: 'and' | 'or', all: readonly Meaning[]): Meaning {
  const parts = all.filter((part, index) => all.findIndex((other) => other.text === part.text) === index);
  const [first] = parts;
  if (parts.length === 1 && first) return first;
  const enclosed = (part: Meaning): string => (k === 'and' && part.top === 'or' ? `(${part.text})` : part.text);
  return {
    text: parts.map(enclosed).join(k === 'and' ? ' AND ' : ' OR '),
    top: k,
    score: Math.min(...parts.map((part) => part.score)),
    words: parts.flatMap((part) => part.words),
    supposed: parts.flatMap((part) => part.supposed),
  };
}
