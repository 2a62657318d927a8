import { conversion, isCelsius, unitOfDifference } from '@/core/units';
import { type Compared, comparisonIn, type Limit } from './compare';
import { joined, type Meaning, negated } from './meaning';
import { empty, tendency, weak, wholeWords } from './prose/lexicon';
import { Phrase } from './prose/phrase';
import { type Quantity, type Token, written } from './prose/tokens';
import type { ReadWord, Term } from './types';
import type { Match, Vocabulary } from './vocabulary';

/** Ties closer than this are told as two readings. */
const tie = 0.07;
/** What fits worse is no reading at all. */
const least = 0.34;

const denial = wholeWords('not|never|no longer|cannot');
const none = wholeWords('no|neither|nor|none');
const several = wholeWords('both|all|each|every|no|neither');
const connecting = /^(?:and|or|nor)$/;
const neither = wholeWords('neither');

/**
 * Reads a clause as a condition: joined parts, comparisons, truths and states.
 * @param subject the noun phrase last spoken of, for "it" and for clauses that name none
 * @returns readings that fit about equally well, the best first; none when the words fit nothing
 */
export function conditionsOf(clause: Phrase, vocabulary: Vocabulary, subject: Phrase): Meaning[] {
  const spoken = clause.has(wholeWords('it|they|them')) ? subject.with(clause.without(wholeWords('it|they|them'))) : clause;
  const parts = split(spoken.without(atOnce));
  if (parts.length > 1) {
    const whole = collective(spoken, vocabulary);
    if (whole) return [whole];
    // "Not" before the first, or in what is said of all, denies all of them.
    const denied =
      parts[0]?.phrase.has(denial) ||
      spoken.has(neither) ||
      (parts.at(-1)?.phrase.has(denial) && predicateOf((parts[0] as { phrase: Phrase }).phrase).isEmpty);
    const distributed = distribute(
      parts.map((part) => (denied ? part.phrase.without(denial).without(neither) : part.phrase)),
      vocabulary,
    );
    const meanings = distributed.map((part) => simple(part, vocabulary, subject)[0]);
    if (meanings.every((one) => one !== undefined)) {
      const k = parts[1]?.by === 'or' ? 'or' : 'and';
      // "Both closed", of one that is named for being open and one for being closed, may be meant of what they do.
      const isMixed = predicateOf((parts[0] as { phrase: Phrase }).phrase).isEmpty && new Set(meanings.map((one) => one.denied)).size > 1;
      const one = joined(k, isMixed ? meanings.map((each) => ({ ...each, score: each.score * 0.8 })) : meanings);
      // "Not a and b" denies them together where both are said at once, each where one is said of either.
      if (!denied) return [one];
      const words = deniedIn(spoken);
      const turned = spoken.has(together) ? negated(one) : joined('and', meanings.map(negated));
      return [{ ...turned, words: [...turned.words, ...words] }];
    }
  }
  return simple(spoken, vocabulary, subject);
}

const atOnce = wholeWords('together|simultaneously|at the same time|at once');
const together = wholeWords('together|simultaneously|both|at the same time|at once|never');
const be = wholeWords('is|are|be|been|was|has|have|remain|remains|stay|stays');

/** Parts joined by "and" or "or", outside of ranges. */
function split(clause: Phrase): { phrase: Phrase; by?: string }[] {
  const parts: { phrase: Phrase; by?: string }[] = [];
  let from = 0;
  let by: string | undefined;
  clause.tokens.forEach((token, at) => {
    if (!connecting.test(token.text) || insideRange(clause, at) || /^(?:at|equal to|than)$/.test(clause.tokens[at - 1]?.text ?? '')) return;
    if (at > from) parts.push({ phrase: clause.part(from, at), ...(by ? { by } : {}) });
    by = token.text;
    from = at + 1;
  });
  parts.push({ phrase: clause.part(from), ...(by ? { by } : {}) });
  return parts.filter((part) => !part.phrase.isEmpty);
}

/** The "and" of "between 2 and 3", and that of two things that differ from each other. */
function insideRange(clause: Phrase, at: number): boolean {
  const before = clause.part(0, at).text;
  return /(?:between|range(?: of| from)?) #[qt]$/.test(before) || clause.part(at).has(/(?:differ|deviate)s? by/);
}

/** "red and green lamp on" is said of both; "above 2 and below 3" is said of one. */
function distribute(parts: readonly Phrase[], vocabulary: Vocabulary): Phrase[] {
  const last = parts.at(-1) as Phrase;
  const predicate = predicateOf(last);
  const first = parts[0] as Phrase;
  const compares = comparisonIn(last) !== undefined;
  return parts.map((part, index) => {
    if (compares && (vocabulary.truths(part)[0]?.score ?? 0) > 0.8) return part;
    if (index < parts.length - 1 && predicateOf(part).isEmpty && !predicate.isEmpty) return part.with(predicate);
    if (index > 0 && subjectOf(part).isEmpty) return subjectOf(first).with(part);
    return part;
  });
}

/** From the first word that says something of the subject. */
function predicateStart(clause: Phrase): number {
  const compared = comparisonIn(clause);
  const limit = compared ? clause.tokens.indexOf(compared.said.tokens[0] as Token) : -1;
  const verb = clause.tokens.findIndex((token) => be.test(token.text) || tendency(token.text) !== 0);
  const found = [limit, verb].filter((at) => at >= 0);
  return found.length > 0 ? Math.min(...found) : clause.tokens.length;
}
const predicateOf = (clause: Phrase): Phrase => clause.part(predicateStart(clause));
export const subjectOf = (clause: Phrase): Phrase => {
  const subject = clause.part(0, predicateStart(clause));
  return subject.tokens.every((token) => empty.has(token.text) && !weak.has(token.text)) ? subject.part(subject.tokens.length) : subject;
};

/** "A and B shall never be open and closed": two words of one thing, not two clauses. Each half must not stand for itself. */
function collective(clause: Phrase, vocabulary: Vocabulary): Meaning | undefined {
  const compared = comparisonIn(clause);
  return compared?.comparison.k === 'near' ? compare(compared, clause.has(denial), vocabulary, new Phrase([]))[0] : undefined;
}

/** Words that turn the name of a thing into its contrary, unless some name has them itself. */
const failing = wholeWords('(?:loss|failure|absence|outage|interruption) of|loss|failure|outage|fails|fail|missing');

function simple(phrase: Phrase, vocabulary: Vocabulary, subject: Phrase): Meaning[] {
  const failed = phrase.find(failing);
  const isLost = failed !== undefined && !vocabulary.has(failed.match.tokens[0]?.text ?? '');
  if (!failed || !isLost) return said(phrase, vocabulary, subject);
  const words = failed.match.tokens.map(({ from, to }) => ({ from, to, as: 'not' }));
  const rest = failed.before.with(failed.behind);
  return said(rest, vocabulary, subject)
    .filter((meaning) => meaning.top === 'atom' && !meaning.state)
    .map((meaning) => {
      const turned = meaning.denied ? meaning : negated(meaning);
      return { ...turned, words: [...turned.words, ...words], supposed: [...turned.supposed, `${failed.match.text} is ${turned.text}`] };
    });
}

function said(clause: Phrase, vocabulary: Vocabulary, subject: Phrase): Meaning[] {
  const not = clause.has(denial);
  const bare = clause.without(denial);
  const compared = comparisonIn(bare);
  if (compared) {
    const found = compare(compared, not, vocabulary, subject).map((meaning) => ({ ...meaning, words: [...meaning.words, ...deniedIn(clause)] }));
    const limits = bare.tokens.flatMap((token) =>
      token.quantity ? [{ from: token.from, to: token.to, as: `limit ${written(token.quantity).text}` }] : [],
    );
    if (found.length > 0) return found.map((meaning) => ({ ...meaning, words: [...meaning.words, ...limits] }));
  }
  return truths(bare, not, vocabulary, subject).map((meaning) => ({ ...meaning, words: [...meaning.words, ...deniedIn(clause)] }));
}

/** The words that deny, which count as placed where their meaning was turned round. */
function deniedIn(clause: Phrase): ReadWord[] {
  return clause.tokens
    .filter((token) => /^(?:not|never|no|cannot|neither|nor|none)$/.test(token.text))
    .map(({ from, to }) => ({ from, to, as: 'not' }));
}

/** A bound, a range or a tolerance of a quantity. */
function compare({ comparison, subject: own, said }: Compared, denied: boolean, vocabulary: Vocabulary, context: Phrase): Meaning[] {
  // "No level shall exceed" denies as "the levels shall not exceed" does.
  const not = denied !== own.has(none);
  const noun = own.without(none);
  const subject = noun.tokens.some((token) => token.kind === 'word' && vocabulary.has(token.text)) ? noun : context.with(noun);
  const unit = unitOf(comparison);
  const found = vocabulary.quantities(subject, (term) => fitsUnit(term, unit));
  const chosen = alike(found, subject, own.has(several));
  const groups = chosen.together ? [chosen.matches] : chosen.matches.map((match) => [match]);
  return groups.flatMap((matches) => {
    const parts = matches.flatMap((match) => {
      const text = printed(comparison, match, not, vocabulary);
      if (!text) return [];
      const converted = text.note ? [text.note] : [];
      return [
        {
          text: text.text,
          top: 'comparison' as const,
          score: match.score * text.score,
          words: [...wordsOf(match), { ...spanOf(said), as: text.as }, ...text.words],
          supposed: converted,
        },
      ];
    });
    return parts.length > 0 ? [joined('and', parts)] : [];
  });
}

function unitOf(comparison: Compared['comparison']): Quantity | undefined {
  if (comparison.k === 'between' || comparison.k === 'beyond') return comparison.high;
  if (comparison.k === 'near') return comparison.tolerance;
  return 'quantity' in comparison.limit ? comparison.limit.quantity : undefined;
}

/** Whether a quantity may be a value of a term, or its tolerance: kelvin are differences of degrees Celsius. */
function fitsUnit(term: Term, quantity: Quantity | undefined): boolean {
  if (!quantity) return term.kind === 'quantity';
  if (quantity.unit === '') return term.unit === '' || term.kind === 'whole' || quantity.value === 0;
  if (isCelsius(term.unit) && quantity.unit === 'K') return true;
  return term.unit !== '' && conversion(quantity.unit, term.unit) !== undefined;
}

interface Printed {
  readonly text: string;
  readonly as: string;
  readonly score: number;
  readonly note?: string;
  readonly words: readonly ReadWord[];
}

const spoken = { '<': 'less than', '<=': 'at most', '>': 'more than', '>=': 'at least', '=': 'equal to' } as const;
const flipped = { '<': '>=', '<=': '>', '>': '<=', '>=': '<', '=': '<>' } as const;

function printed(comparison: Compared['comparison'], { term }: Match, not: boolean, vocabulary: Vocabulary): Printed | undefined {
  const shown = (quantity: Quantity): { text: string; note?: string } => {
    const { text, converted } = written(quantity.unit === '' ? { ...quantity, unit: term.unit } : quantity, term.unit);
    return { text, ...(converted ? { note: `${written(quantity).text} is ${text}` } : {}) };
  };
  const other = (limit: Limit): Printed | undefined => {
    if ('quantity' in limit) return { ...shown(limit.quantity), as: '', score: 1, words: [] };
    const [match] = vocabulary.quantities(
      limit.noun,
      (one) => one.name !== term.name && (one.unit === term.unit || conversion(one.unit, term.unit) === 1),
    );
    return match && match.score >= least ? { text: match.term.name, as: '', score: match.score, words: wordsOf(match) } : undefined;
  };
  switch (comparison.k) {
    case 'beyond':
    case 'between': {
      const isDenied = not !== (comparison.k === 'beyond');
      const [low, high] = [shown(comparison.low), shown(comparison.high)];
      const text = `${term.name} in [${low.text}, ${high.text}]`;
      const note = low.note ?? high.note;
      return { text: isDenied ? `NOT (${text})` : text, as: 'range', score: 1, words: [], ...(note ? { note } : {}) };
    }
    case 'near': {
      const target = other(comparison.target);
      if (!target) return undefined;
      // "Not differ by more than" and "within" say the same.
      const { value, unit } = comparison.tolerance;
      const width = written({ value, unit: unitOfDifference(unit) }, unitOfDifference(term.unit));
      return {
        text: `${term.name} = ${target.text} ± ${width.text}`,
        as: 'tolerance',
        score: target.score,
        words: target.words,
        ...(target.note ? { note: target.note } : {}),
      };
    }
    case 'bound': {
      const limit = other(comparison.limit);
      if (!limit) return undefined;
      const operator = not ? flipped[comparison.operator] : comparison.operator;
      return { ...limit, text: `${term.name} ${operator} ${limit.text}`, as: operator === '<>' ? 'not equal to' : spoken[operator] };
    }
  }
}

/** Truths, states, and quantities that are said to be at rest. */
function truths(clause: Phrase, not: boolean, vocabulary: Vocabulary, context: Phrase): Meaning[] {
  const no = clause.has(none);
  const bare = clause.without(none);
  const own = vocabulary.truths(bare);
  const found = own.length > 0 && (own[0]?.score ?? 0) >= least ? own : vocabulary.truths(context.with(bare));
  const chosen = alike(found, bare, no || clause.has(several));
  const flip = not !== no;
  const meaning = (match: Match): Meaning => {
    const { term, denied, score, supposed } = match;
    const negative = denied !== flip;
    return {
      text: negative ? `NOT ${term.name}` : term.name,
      top: 'atom',
      ...(term.kind === 'state' && !negative ? { state: true } : {}),
      ...(negative ? { denied: true } : {}),
      score,
      words: wordsOf(match),
      supposed: supposed ? [supposed] : [],
    };
  };
  const meanings = chosen.matches.map(meaning);
  if (meanings.length > 1 && chosen.together) {
    // "Never both" leaves one of them; "none" and "not the pumps" leave no one.
    return [not && clause.has(wholeWords('both')) ? negated(joined('and', meanings.map(negated))) : joined('and', meanings)];
  }
  if (meanings.length > 0) return meanings;
  return atRest(bare.tokens.some((token) => vocabulary.has(token.text)) ? bare : context.with(bare), flip, vocabulary);
}

const resting = wholeWords('stopped|stops|stop|standing still|at standstill|at rest|stationary');

/** "The belt is stopped", where there is a speed of the belt and nothing else that says so. */
function atRest(clause: Phrase, not: boolean, vocabulary: Vocabulary): Meaning[] {
  const rest = clause.find(resting);
  if (!rest) return [];
  const [match] = vocabulary.quantities(clause.without(resting), (term) => /\/(?:s|h|min)$/.test(term.unit));
  if (!match || match.score < least) return [];
  const text = `${match.term.name} ${not ? '>' : '<='} 0 ${match.term.unit}`;
  return [
    {
      text,
      top: 'comparison',
      score: match.score * 0.7,
      words: [...wordsOf(match), { ...spanOf(rest.match), as: 'at rest' }],
      supposed: [`at rest is ${text}`],
    },
  ];
}

/** The best matches: one, several that fit alike, or all of those meant together ("both pumps", "the pumps"). */
function alike(found: readonly Match[], phrase: Phrase, said: boolean): { matches: readonly Match[]; together: boolean } {
  const [best] = found;
  if (!best || best.score < least) return { matches: [], together: false };
  const near = found.filter((match) => best.score - match.score < tie);
  const plural = phrase.tokens.some((token) => /[^s]s$/.test(token.text) && !be.test(token.text) && tendency(token.text) === 0);
  const family = near.filter((match) => match.term.name.split('.').at(-1) === best.term.name.split('.').at(-1) && match.term.kind === best.term.kind);
  if (family.length > 1 && (said || plural)) return { matches: [...family].sort((a, b) => (a.term.name < b.term.name ? -1 : 1)), together: true };
  return { matches: near.slice(0, 3), together: false };
}

function wordsOf(match: Match): ReadWord[] {
  const as = `${match.term.kind === 'state' ? 'state' : 'signal'} ${match.term.name}`;
  return match.tokens.map((token) => ({ from: token.from, to: token.to, as }));
}

function spanOf(phrase: Phrase): { from: number; to: number } {
  return { from: phrase.tokens[0]?.from ?? 0, to: phrase.tokens.at(-1)?.to ?? 0 };
}
