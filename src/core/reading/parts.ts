import { type Part, partsOf } from './clauses';
import { wholeWords } from './prose/lexicon';
import { Phrase } from './prose/phrase';
import type { Token } from './prose/tokens';
import { timingsIn } from './timing';
import type { Vocabulary } from './vocabulary';

/** The parts of a prose, each a "shall" with its clauses: sentence by sentence, and those that refer to the one before in its light. */
export function partsOfProse(tokens: readonly Token[], vocabulary: Vocabulary): Part[] {
  return referring(sentencesOf(tokens).map((sentence) => partsOf(sentence).map((part) => withTrailing(part, vocabulary))));
}

/** "At once" is one word, lest its second be taken for the beginning of a clause. */
export function withoutIdioms(tokens: readonly Token[]): Token[] {
  return tokens.flatMap((token, index): Token[] => {
    const [before, next] = [tokens[index - 1], tokens[index + 1]];
    if (token.text === 'once' && before?.text === 'at') return [];
    return token.text === 'at' && next?.text === 'once' ? [{ ...token, text: 'immediately', to: next.to }] : [token];
  });
}

/** "Shall be off in Shutdown", but not "shall be in Shutdown", which says what shall be: the state is a clause. */
function withTrailing(part: Part, vocabulary: Vocabulary): Part {
  const found = part.response.find(/(?<= )(?:in|during) (?:the )?\S+(?: \S+)?$/);
  if (!found || found.before.tokens.every(({ text, kind }) => kind === 'quantity' || /^(?:be|remain|stay|not|within)$/.test(text))) return part;
  const phrase = found.match.part(found.match.tokens[1]?.text === 'the' ? 2 : 1);
  if (!vocabulary.isState(phrase)) return part;
  return { ...part, response: found.before, clauses: [...part.clauses, { tie: 'state', phrase, marker: found.match.part(0, 1) }] };
}

const alsoWords = wholeWords(',? ?(?:too|also|as well|likewise)');
const itself = /^(?:it|they|this|that)$/;
const coming = wholeWords('happen|occur|be done|take place|be the case');

/** A sentence that speaks of "it" or "this" says more of what the one before has said: then both are one. */
function referring(sentences: readonly (readonly Part[])[]): Part[] {
  const all: Part[] = [];
  for (const [first, ...rest] of sentences) {
    const before = all.at(-1);
    if (!first) continue;
    if (before && first.clauses.length === 0 && (first.subject.has(/^(?:its|their) /) || first.response.has(alsoWords)))
      all.push({ ...first, response: first.response.without(alsoWords), clauses: before.clauses });
    else if (before && itself.test(first.subject.text)) {
      const { part, instead } = ofTheSame(first, before);
      if (instead) all.pop();
      all.push(part);
    } else all.push(first);
    all.push(...rest);
  }
  return all;
}

/** A part that speaks of "it" or "this", of the subject before; in its place where it says the same with more to it. */
function ofTheSame(part: Part, before: Part): { readonly part: Part; readonly instead: boolean } {
  const isSame = part.response.has(coming);
  const response = isSame ? before.response.with(part.response.without(coming)) : part.response;
  const earlier = timingsIn(before.response);
  const isMore = isSame || timingsIn(response).rest.text === earlier.rest.text;
  return { part: { ...part, subject: before.subject, response }, instead: isMore && before.clauses.length === 0 && earlier.timings.length === 0 };
}

function sentencesOf(tokens: readonly Token[]): Phrase[] {
  const sentences: Phrase[] = [];
  let from = 0;
  tokens.forEach((token, at) => {
    if (token.text !== '.' && token.text !== '!' && token.text !== ';') return;
    sentences.push(new Phrase(tokens.slice(from, at)));
    from = at + 1;
  });
  sentences.push(new Phrase(tokens.slice(from)));
  return sentences.filter((sentence) => !sentence.isEmpty);
}
