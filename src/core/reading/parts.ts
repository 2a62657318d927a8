import { type Clause, type Part, partsOf } from './clauses';
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

/** States that stand behind what shall be, and behind what happens, are clauses of their own. */
function withTrailing(part: Part, vocabulary: Vocabulary): Part {
  const behind = trailing(part.response, vocabulary);
  const clauses = part.clauses.flatMap((clause): Clause[] => {
    const found = /^(?:event|when|if)$/.test(clause.tie) ? trailing(clause.phrase, vocabulary) : undefined;
    return found ? [{ ...clause, phrase: found.before }, found.state] : [clause];
  });
  return behind ? { ...part, response: behind.before, clauses: [...clauses, behind.state] } : { ...part, clauses };
}

/** "Be off in Shutdown", but not "be in Shutdown", which says what is. */
function trailing(said: Phrase, vocabulary: Vocabulary): { readonly before: Phrase; readonly state: Clause } | undefined {
  const found = said.find(/(?<= )(?:in|during) (?:the )?\S+(?: \S+)?$/);
  if (!found || found.before.tokens.every(({ text, kind }) => kind === 'quantity' || /^(?:be|is|are|remain|stay|not|within)$/.test(text)))
    return undefined;
  // "The unit is in Shutdown" says of the unit what it is.
  if (/(?:^| )(?:is|are|was|has been|remains|stays)$/.test(found.before.text)) return undefined;
  const phrase = found.match.part(found.match.tokens[1]?.text === 'the' ? 2 : 1);
  if (!vocabulary.isState(phrase)) return undefined;
  return { before: found.before, state: { tie: 'state', phrase, marker: found.match.part(0, 1) } };
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
