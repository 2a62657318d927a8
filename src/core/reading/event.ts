import type { Meaning } from './meaning';
import { wholeWords } from './prose/lexicon';
import type { Phrase } from './prose/phrase';

const leaving = wholeWords('leaves|leave|left|leaving|ends|ended|exits|end|is left|exit|finishes');

/** A condition's beginning, as a sentence writes it. */
export function eventOf(meaning: Meaning, phrase: Phrase): string {
  const { text, state, denied, top } = meaning;
  if (state) return `${phrase.has(leaving) ? 'leaves' : 'enters'} ${text}`;
  if (denied && top === 'atom') {
    const inner = text.replace(/^NOT /, '');
    return `${inner} falls`;
  }
  const crossing = top === 'comparison' && phrase.has(wholeWords('reaches|reach|crosses|passes|attains')) ? /^(\S+) (>=|<=) (.*)$/.exec(text) : null;
  if (crossing) return `${crossing[1]} crosses ${crossing[3]} ${crossing[2] === '>=' ? 'upward' : 'downward'}`;
  return `${text} rises`;
}
