import { wholeWords } from './prose/lexicon';
import { Phrase } from './prose/phrase';

/** How a clause is tied to what shall be: after the kinds of EARS (Mavin et al. 2009), and the words around them. */
export type Tie = 'event' | 'if' | 'when' | 'state' | 'until' | 'unless' | 'only' | 'before' | 'feature';

export interface Clause {
  readonly tie: Tie;
  readonly phrase: Phrase;
  /** The word that ties it. */
  readonly marker: Phrase;
}

/** One "shall" with all that is said about when. */
export interface Part {
  readonly subject: Phrase;
  readonly response: Phrase;
  readonly clauses: readonly Clause[];
  /** What stands in front and is no clause that is known. */
  readonly passedOver: Phrase;
}

const modal = wholeWords('shall|must|will|should|has to|have to|is to|are to');
const ties: readonly (readonly [Tie, string])[] = [
  ['only', 'only (?:when|while|if|during|as long as|whenever|after|take place while|take place when|be possible while)'],
  ['state', 'while|whilst|during|as long as|so long as|whenever|at all times when|provided that'],
  ['unless', 'unless|except (?:when|while|if|during|in)'],
  ['event', 'once|upon|as soon as|following|after|in the event of|in the event that|in case of|on|of'],
  ['when', 'when'],
  ['if', 'if|in case'],
  ['until', 'until|till'],
  ['before', 'before|prior to'],
  ['feature', 'where'],
];
/** Words that may stand inside a noun phrase tie a clause only where one can begin. */
const inside = /^(?:on|of)$/;
const anyTie = wholeWords(
  ties
    .map(([, words]) => words)
    .join('|')
    .replace('|on|of', ''),
);
const tieAtStart = wholeWords(`(?:${ties.map(([, words]) => words).join('|')}|in|with|at(?! least| most))`);

/** Takes a sentence of prose apart; several "shall" make several parts, which share the clauses in front. */
export function partsOf(sentence: Phrase): Part[] {
  const text = atNoTime(sentence);
  const found = text.find(modal);
  if (!found) return [];
  const { clauses, subject, passedOver } = opening(found.before);
  const second = secondShall(found.behind);
  const first = { ...followed(second?.before ?? found.behind, subject, clauses), passedOver };
  if (!second) return [first];
  const shared = clauses.map((clause) => clause);
  return [first, ...partsOf(second.behind).map((part) => ({ ...part, clauses: [...shared, ...part.clauses] }))];
}

/** "At no time shall X be …" is "X shall never be …". */
function atNoTime(sentence: Phrase): Phrase {
  const found = sentence.find(/^(?:at no time|never|under no circumstances) (?:shall|must|will) /);
  if (!found) return sentence;
  const shall = found.match.part(found.match.tokens.length - 1);
  const never = new Phrase([{ kind: 'word', text: 'never', from: found.match.tokens[0]?.from ?? 0, to: shall.tokens[0]?.from ?? 0 }]);
  return shall.with(never).with(found.behind);
}

/** "…, and the lamp shall …": where the second one begins. */
function secondShall(behind: Phrase): { before: Phrase; behind: Phrase } | undefined {
  const again = behind.find(modal);
  if (!again) return undefined;
  for (let at = again.before.tokens.length - 1; at > 0; at -= 1) {
    const word = behind.tokens[at]?.text;
    if (word !== 'and' && word !== ';' && word !== ',') continue;
    const from = behind.tokens[at - 1]?.text === ',' ? at - 1 : at;
    return { before: behind.part(0, from), behind: behind.part(at + 1) };
  }
  return undefined;
}

/** The clauses in front of the subject, the subject, and what is in front and neither. */
function opening(before: Phrase): { clauses: Clause[]; subject: Phrase; passedOver: Phrase } {
  const segments = commas(before);
  const last = segments.at(-1) ?? new Phrase([]);
  const alone = segments.length === 1 && last.has(new RegExp(`^${tieAtStart.source}`));
  if (alone) {
    // "During purge the valve shall": the subject begins at the last article.
    const article = lastArticle(last);
    return { clauses: clausesIn(last.part(0, article)), subject: last.part(article), passedOver: new Phrase([]) };
  }
  // A comma inside a clause does not end it.
  const heads: Phrase[] = [];
  for (const segment of segments.slice(0, -1)) {
    const begins = segment.has(new RegExp(`^${tieAtStart.source}`)) || segment.has(/^(?:within|between|no later than) #t/);
    const previous = begins ? undefined : heads.pop();
    heads.push(previous ? previous.with(segment) : segment);
  }
  const read = heads.map((head) => ({ head, clauses: clausesIn(head) }));
  const passedOver = read.reduce((all, { head, clauses }) => (clauses.length > 0 ? all : all.with(head)), new Phrase([]));
  return { clauses: read.flatMap((one) => one.clauses), subject: last.has(/^then /) ? last.part(1) : last, passedOver };
}

function commas(phrase: Phrase): Phrase[] {
  const parts: Phrase[] = [];
  let from = 0;
  phrase.tokens.forEach((token, at) => {
    if (token.text !== ',') return;
    parts.push(phrase.part(from, at));
    from = at + 1;
  });
  return [...parts, phrase.part(from)].filter((part) => !part.isEmpty);
}

function lastArticle(phrase: Phrase): number {
  for (let at = phrase.tokens.length - 1; at > 1; at -= 1) if (/^(?:the|then|a|an|no)$/.test(phrase.tokens[at]?.text ?? '')) return at;
  return phrase.tokens.length;
}

/** What stands behind "shall": the response, then clauses each begun by its own word. */
function followed(behind: Phrase, subject: Phrase, clauses: readonly Clause[]): Omit<Part, 'passedOver'> {
  const found = behind.find(anyTie);
  // "after 2 s" is a time, no clause.
  if (found && /^#t/.test(found.behind.text) && /^(?:after|before)$/.test(found.match.text)) {
    const later = found.behind.find(anyTie);
    const response = found.before.with(found.match).with(later ? later.before : found.behind);
    return { subject, response, clauses: [...clauses, ...(later ? clausesIn(later.match.with(later.behind)) : [])] };
  }
  const of = behind.find(/(?<=#t )(?:of|from)(?![^ ])/);
  const cut = of && (!found || of.before.tokens.length < found.before.tokens.length) ? of : found;
  if (!cut) return { subject, response: behind, clauses };
  return { subject, response: cut.before, clauses: [...clauses, ...clausesIn(cut.match.with(cut.behind))] };
}

/** A run of clauses, each beginning with the word that ties it. */
function clausesIn(run: Phrase): Clause[] {
  const timed = run.find(/^(?:within|between|no later than) #t(?: and #t)?/);
  if (timed) {
    const [first, ...rest] = clausesIn(timed.behind);
    // The time belongs to the response; it is handed on in front of the clause it counts from.
    return first ? [{ ...first, marker: timed.match.with(first.marker) }, ...rest] : [];
  }
  const start = ties.map(([tie, words]) => [tie, run.find(new RegExp(`^(?:${words})(?![^ ])`))] as const).find(([, found]) => found);
  const inState = run.find(/^(?:in|with|at(?! least| most))(?![^ ])/);
  if (!start?.[1] && !inState) return [];
  const [tie, marker, behind] = start?.[1]
    ? [start[0], start[1].match, start[1].behind]
    : (['state', inState?.match ?? run, inState?.behind ?? run] as const);
  const next = behind.find(anyTie);
  const timeBehind = next && /^#t/.test(next.behind.text) && !inside.test(next.match.text);
  if (!next || timeBehind) return [{ tie, phrase: trimmed(behind), marker }];
  return [{ tie, phrase: trimmed(next.before), marker }, ...clausesIn(next.match.with(next.behind))];
}

/** Without commas and "then" at its ends. */
function trimmed(phrase: Phrase): Phrase {
  const end = phrase.tokens.at(-1)?.text;
  if (end === ',' || end === 'then' || end === 'and') return trimmed(phrase.part(0, phrase.tokens.length - 1));
  return phrase.tokens[0]?.text === ',' ? trimmed(phrase.part(1)) : phrase;
}
