import { conversion, isCelsius } from '@/core/units';
import type { Part } from './clauses';
import { conditionsOf } from './condition';
import { eventOf } from './event';
import type { Meaning } from './meaning';
import { wholeWords } from './prose/lexicon';
import { type Found, Phrase } from './prose/phrase';
import { type Quantity, written } from './prose/tokens';
import type { ReadWord, Term } from './types';
import type { Match, Vocabulary } from './vocabulary';

/** A figure over time that a part asks for, as a sentence writes it. */
export interface MeasureRead {
  readonly text: string;
  readonly score: number;
  readonly words: readonly ReadWord[];
  readonly supposed: readonly string[];
  /** A condition on a rate holds always, or in a state; a measure by itself is the whole sentence. */
  readonly isCondition?: true;
}

/** What fits worse is no reading at all. */
const least = 0.34;
const denial = wholeWords('not|never|no|cannot');

/**
 * Reads a part as a figure: how long something lasts, how often it happens, how fast it changes, how a quantity follows another, the time between two events.
 * @returns nothing for a part that asks for something else
 */
export function measureIn({ subject, response }: Pick<Part, 'subject' | 'response'>, vocabulary: Vocabulary): MeasureRead | undefined {
  const whole = subject.with(response);
  for (const read of [distance, following, rate, count, duration]) {
    const found = read(whole, vocabulary);
    if (found) return found;
  }
  return undefined;
}

function spanned(phrase: Phrase, as: string): ReadWord[] {
  return phrase.tokens.map(({ from, to }) => ({ from, to, as }));
}

function quantityIn(phrase: Phrase): Quantity | undefined {
  return phrase.tokens.find((token) => token.quantity)?.quantity;
}

/** The words that deny in a phrase count as placed where the limit has them in it. */
function denied(phrase: Phrase): ReadWord[] {
  return phrase.tokens.filter((token) => /^(?:not|never|no|cannot)$/.test(token.text)).map(({ from, to }) => ({ from, to, as: 'not' }));
}

const upTo = 'no (?:longer|more) than|not (?:longer|more) than|at most|up to|less than|under|within|a maximum of|a total of at most';
const beyond = '(?:for )?(?:more|longer) than';
const lasting = wholeWords('last|lasts|take|takes|go on|continue');
const aside = wholeWords('without (?:a break|interruption)|at a (?:stretch|time)|continuously|in one go|the time in|the time during which|time');
const inRun = wholeWords('in (?:a|one|each|any) run|in total|altogether');

/** "shall not be on for longer than 5 min", "shall last at most 5 min". */
function duration(whole: Phrase, vocabulary: Vocabulary): MeasureRead | undefined {
  const isDenied = whole.has(denial);
  const more = isDenied ? whole.find(wholeWords(`${beyond} #t`)) : undefined;
  const plain = whole.find(wholeWords(`(?:no longer than|not longer than|no more than|not more than|at most|up to) #t`));
  const bounded = whole.has(lasting) ? whole.find(wholeWords(`(?:${upTo}) #t`)) : plain;
  const found = bounded ?? more;
  const time = found && quantityIn(found.match);
  if (!found || !time) return undefined;
  const thing = stripped(found, [denial, lasting, aside, inRun, wholeWords('be')]);
  const [meaning] = conditionsOf(thing, vocabulary, new Phrase([]));
  if (!meaning || meaning.score < least || meaning.top === 'comparison') return undefined;
  const operator = found.match.has(wholeWords('less than|under')) ? '<' : '<=';
  const kind = whole.has(inRun) ? 'duration of' : 'longest';
  const inner = meaning.top === 'atom' ? meaning.text : `(${meaning.text})`;
  return {
    ...meaning,
    text: `${kind} ${inner} ${operator} ${written(time).text}`,
    words: [...meaning.words, ...spanned(found.match, 'longest time'), ...denied(whole), ...placed(whole, [lasting, aside, inRun])],
  };
}

const periods: Readonly<Record<string, string>> = { second: '1 s', minute: '1 min', hour: '1 h', day: '1 d' };
const often = wholeWords(
  '(?:more (?:often )?than|at most|no more (?:often )?than|not more (?:often )?than|up to) #q(?: (?:times?|attempts?|starts?|cycles?))?',
);
const period = wholeWords(
  '(?:per|in any|in an|in a|in|within|within any|an|a|each|every|any)(?: (?:period|stretch) of)? (?:(?<unit>second|minute|hour|day)|#t)',
);

/** "not more than 6 times in any hour". */
function count(whole: Phrase, vocabulary: Vocabulary): MeasureRead | undefined {
  const times = whole.find(often);
  const number = times && quantityIn(times.match);
  const stretch = times && (times.behind.find(period) ?? undefined);
  if (!times || !number || number.unit !== '' || !stretch || !Number.isInteger(number.value)) return undefined;
  const isBare = times.match.has(wholeWords('more (?:often )?than')) && !times.match.has(wholeWords('no|not'));
  if (isBare && !whole.has(denial)) return undefined;
  const length = quantityIn(stretch.match);
  const over = stretch.groups.unit ? periods[stretch.groups.unit] : length ? written(length).text : undefined;
  if (over === undefined) return undefined;
  const thing = times.before.with(stretch.before).with(stretch.behind).without(denial).without(wholeWords('be|be made|to|made'));
  const [meaning] = conditionsOf(thing, vocabulary, new Phrase([]));
  if (!meaning || meaning.score < least) return undefined;
  return {
    ...meaning,
    text: `count of ${eventOf(meaning, thing)} in any ${over} <= ${number.value}`,
    words: [...meaning.words, ...spanned(times.match, 'how often'), ...spanned(stretch.match, 'in any'), ...denied(whole)],
  };
}

const changing = wholeWords(
  '(?<verb>rise|rises|increase|increases|climb|fall|falls|drop|drops|decrease|decreases|sink|change|changes|vary)(?: by| at)?(?: (?:more|faster|quicker) than| at most| no more than| not more than)(?: by)? #q(?: (?:per|a|an|each|every) (?<unit>second|minute|hour))?',
);
const short: Readonly<Record<string, string>> = { second: 's', minute: 'min', hour: 'h' };

/** "shall not rise by more than 4 °C per minute". */
function rate(whole: Phrase, vocabulary: Vocabulary): MeasureRead | undefined {
  const found = whole.find(changing);
  const quantity = found && quantityIn(found.match);
  if (!found || !quantity) return undefined;
  const isBound = found.match.has(wholeWords('at most|no more than|not more than'));
  if (!isBound && !whole.has(denial)) return undefined;
  const per = found.groups.unit ? short[found.groups.unit] : undefined;
  const limit = per ? { ...quantity, unit: `${isCelsius(quantity.unit) ? 'K' : quantity.unit}/${per}` } : quantity;
  const fits = ({ unit }: Term): boolean => conversion(limit.unit, `${isCelsius(unit) ? 'K' : unit || '1'}/s`) !== undefined;
  const [match] = vocabulary.quantities(stripped(found, [denial]), fits);
  if (!match || match.score < least) return undefined;
  const verb = found.groups.verb ?? '';
  const of = `rate of ${match.term.name}`;
  const text = /^(?:rise|increase|climb)/.test(verb)
    ? `${of} <= ${written(limit).text}`
    : /^(?:change|vary)/.test(verb)
      ? `ABS(${of}) <= ${written(limit).text}`
      : `${of} >= -${written(limit).text}`;
  return {
    text,
    score: match.score,
    words: [...named(match), ...spanned(found.match, 'how fast'), ...denied(whole)],
    supposed: [],
    isCondition: true,
  };
}

const overshooting = wholeWords('overshoots?');
const errorOf = wholeWords('(?:steady|steady-state|steady state|remaining|static) error of');
const settling = wholeWords('settles? (?:to )?within #q of (?<r>#q|.+?) (?:in|within|after) (?:less than |at most |no more than )?#t');

/** Overshoot, settling and the steady error of a quantity that follows another. */
function following(whole: Phrase, vocabulary: Vocabulary): MeasureRead | undefined {
  const settled = whole.find(settling);
  if (settled) return settlingOf(whole, settled, vocabulary);
  const error = whole.find(errorOf);
  if (error) return figureOf(whole, 'steady error', error, vocabulary);
  const named = whole.find(wholeWords('overshoot of'));
  if (named) return figureOf(whole, 'overshoot', named, vocabulary);
  const verb = whole.find(overshooting);
  if (!verb || !whole.has(denial)) return undefined;
  return figureOf(whole, 'overshoot', { ...verb, behind: verb.before.without(denial).with(verb.behind) }, vocabulary);
}

function figureOf(whole: Phrase, kind: 'overshoot' | 'steady error', { match, behind }: Found, vocabulary: Vocabulary): MeasureRead | undefined {
  const tokens = behind.tokens.filter((token) => token.quantity);
  const limit = kind === 'overshoot' ? tokens.find((token) => token.quantity?.unit === '%') : tokens.at(-1);
  if (!limit?.quantity) return undefined;
  const reference = tokens.find((token) => token !== limit && token.quantity?.unit !== '%')?.quantity;
  const words = behind.tokens.filter((token) => token.kind === 'word');
  const fits = ({ unit }: Term): boolean =>
    kind === 'overshoot' ||
    conversion(isCelsius(unit) ? 'K' : unit, isCelsius(limit.quantity?.unit ?? '') ? 'K' : (limit.quantity?.unit ?? '')) !== undefined;
  const followed = pair(new Phrase(words), fits, vocabulary);
  if (!followed || (!reference && !followed.reference)) return undefined;
  const to = reference ? written(reference, followed.follower.term.unit).text : (followed.reference?.term.name ?? '');
  return {
    text: `${kind} of ${followed.follower.term.name} to ${to} <= ${written(limit.quantity).text}`,
    score: followed.follower.score,
    words: [
      ...named(followed.follower),
      ...(followed.reference ? named(followed.reference) : []),
      ...spanned(match, kind),
      ...spanned(new Phrase(tokens), 'limit'),
      ...spanned(
        new Phrase(behind.tokens.filter((token) => !token.quantity && /^(?:by|more|than|at|most|exceed|step|beyond)$/.test(token.text))),
        'limit',
      ),
      ...denied(whole),
    ],
    supposed: followed.isGuessed && followed.reference && !reference ? [`it follows ${followed.reference.term.name}`] : [],
  };
}

const wanting = /set|want|target|reference|demand|desired|command/;

/** The quantity that follows, and the one it follows: named with it, or the only one of its unit that is a wanted value. */
function pair(
  phrase: Phrase,
  fits: (term: Term) => boolean,
  vocabulary: Vocabulary,
): { readonly follower: Match; readonly reference?: Match; readonly isGuessed: boolean } | undefined {
  const isWanted = ({ name, about }: Term): boolean => wanting.test(`${name} ${about}`.toLowerCase());
  const found = vocabulary.quantities(phrase, fits);
  const follower = found.find(({ term }) => !isWanted(term));
  if (!follower || follower.score < 0.2) return undefined;
  const alike = ({ unit }: Term): boolean => unit === follower.term.unit || conversion(unit, follower.term.unit) === 1;
  const references = vocabulary.quantities(phrase, (term) => isWanted(term) && alike(term));
  const [reference] = references;
  return {
    follower: { ...follower, score: Math.max(follower.score, 0.75) },
    ...(reference ? { reference } : {}),
    isGuessed: !phrase.has(wholeWords('wanted|set|target|reference|demand|desired|set-point|setpoint')),
  };
}

function settlingOf(whole: Phrase, found: Found, vocabulary: Vocabulary): MeasureRead | undefined {
  const quantities = found.match.tokens.flatMap((token) => (token.quantity ? [token.quantity] : []));
  const [band, second] = quantities;
  const time = quantities.at(-1);
  if (!band || !time) return undefined;
  const fits = ({ unit }: Term): boolean => conversion(isCelsius(band.unit) ? 'K' : band.unit, isCelsius(unit) ? 'K' : unit) !== undefined;
  const [match] = vocabulary.quantities(found.before, fits);
  if (!match || match.score < least || !second || second === time) return undefined;
  return {
    text: `settling of ${match.term.name} to ${written(second, match.term.unit).text} within ${written(band).text} <= ${written(time).text}`,
    score: match.score,
    words: [...named(match), ...spanned(found.match, 'settling'), ...denied(whole)],
    supposed: [],
  };
}

const passing = wholeWords('(?:pass|elapse|lie|go by)');

/** "At least 3 min shall pass between two starts of the fan". */
function distance(whole: Phrase, vocabulary: Vocabulary): MeasureRead | undefined {
  const time = whole.find(wholeWords('(?:at least|no less than|not less than|a minimum of) #t'));
  const between = whole.find(wholeWords('between'));
  const quantity = time && quantityIn(time.match);
  if (!time || !quantity || !between || !whole.has(passing)) return undefined;
  const events = between.behind.without(passing).without(wholeWords('(?:at least|no less than|not less than|a minimum of) #t'));
  const both = events.find(wholeWords('and'));
  const pieces = both ? [both.before, both.behind] : [events.without(wholeWords('two|successive|consecutive'))];
  const meanings = pieces.map((piece) => conditionsOf(piece, vocabulary, new Phrase([]))[0]);
  if (!meanings.every((one): one is Meaning => one !== undefined && one.score >= least)) return undefined;
  const texts = meanings.map((one, index) => eventOf(one, pieces[index] ?? events));
  return {
    text: `between ${texts[0]} and ${texts[1] ?? texts[0]} at least ${written(quantity).text}`,
    score: Math.min(...meanings.map((one) => one.score)),
    words: [
      ...meanings.flatMap((one) => one.words),
      ...spanned(time.match, 'least time'),
      ...spanned(between.match, 'between'),
      ...placed(whole, [passing]),
    ],
    supposed: meanings.flatMap((one) => one.supposed),
  };
}

function stripped({ before, behind }: Found, patterns: readonly RegExp[]): Phrase {
  return patterns.reduce((phrase, pattern) => phrase.without(pattern), before.with(behind));
}

function placed(whole: Phrase, patterns: readonly RegExp[]): ReadWord[] {
  return patterns.flatMap((pattern) => {
    const found = whole.find(pattern);
    return found ? spanned(found.match, 'how long') : [];
  });
}

function named({ term, tokens }: Match): ReadWord[] {
  return tokens.map(({ from, to }) => ({ from, to, as: `signal ${term.name}` }));
}
