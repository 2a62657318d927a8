import { wholeWords } from './prose/lexicon';
import type { Phrase } from './prose/phrase';
import type { Quantity, Token } from './prose/tokens';

/** What a clause compares: the noun phrase before, and the limit. */
export type Comparison =
  | { readonly k: 'bound'; readonly operator: '<' | '<=' | '>' | '>=' | '='; readonly limit: Limit; readonly reaches: boolean }
  | { readonly k: 'between'; readonly low: Quantity; readonly high: Quantity }
  /** More than so much to either side. */
  | { readonly k: 'beyond'; readonly low: Quantity; readonly high: Quantity }
  | { readonly k: 'near'; readonly target: Limit; readonly tolerance: Quantity };

export type Limit = { readonly quantity: Quantity } | { readonly noun: Phrase };

export interface Compared {
  readonly comparison: Comparison;
  /** Words of the thing compared. */
  readonly subject: Phrase;
  /** What says how it is compared. */
  readonly said: Phrase;
}

const q = '#[qt]';
const motion =
  '(?:(?:rise|rises|risen|fall|falls|fallen|drop|drops|dropped|go|goes|gone|climb|climbs|climbed|sink|sinks|sunk|stay|remain|be|been|lie|lies) )?';

const near = wholeWords(`(?:be |is |at )?(?:equal to |at )?(?<target>${q}) (?:±|\\+/-|plus or minus|plus/minus) ${q}`);
const nearNoun = wholeWords(`within (?:± |\\+/- |plus or minus )?${q} (?:of|from|around)(?: the)?`);
const nearZero = wholeWords(`within (?:±|\\+/-|plus or minus) ${q}`);
const differFrom = wholeWords('(?:differ|differs|deviate|deviates) from(?: the)?');
const differBy = wholeWords(`(?:differ|differs|deviate|deviates) by (?:more than|at most|no more than) ${q}`);
const differing = wholeWords('differ|differs|deviate|deviates');
const byMoreThan = wholeWords(`by (?:more than|at most|no more than|less than) ${q}`);
const between = wholeWords(
  `${motion}(?:between|in the range(?: of| from)?|inside the range(?: of| from)?|within|from|in)(?: the range)?(?: of| from)? ${q} (?:and|to|-|–|\\.\\.\\.) ${q}`,
);

const bounds: readonly (readonly ['<' | '<=' | '>' | '>=' | '=', RegExp])[] = (
  [
    [
      '<=',
      'no (?:more|greater|higher|larger|heavier|faster|longer) than|at most|up to|a maximum of|maximum|limited to|(?:at|equal to) or (?:below|less than|under)|(?:less|smaller|lower) than or equal to',
    ],
    [
      '>=',
      'no (?:less|lower|smaller|fewer) than|at least|a minimum of|minimum|(?:at|equal to) or (?:above|greater than|more than|over)|(?:greater|more|higher) than or equal to',
    ],
    [
      '>',
      'more than|greater than|higher than|larger than|heavier than|faster than|longer than|hotter than|warmer than|stronger than|deeper than|thicker than|wider than|taller than|further than|above|over|exceed|exceeds|exceeded|exceeding|in excess of|beyond',
    ],
    [
      '<',
      'less than|lower than|smaller than|fewer than|below|under|lighter than|slower than|colder than|cooler than|weaker than|shallower than|thinner than|narrower than|shorter than|nearer than|closer than',
    ],
    ['=', 'equal to|equals|equal|exactly'],
  ] as const
).map(([operator, words]) => [operator, wholeWords(`${motion}(?:reach(?:es)? )?(?:${words})`)] as const);
const reaching = wholeWords('reaches|reach|crosses|passes|attains|attain');
const eitherWay = wholeWords('in (?:either|both|any) (?:direction|directions|way|ways)|either way');
const leadingArticle = /^(?:the|a|an) /;

/** Finds what a clause compares; `undefined` for a clause that compares nothing. The words "not" and "never" are the caller's. */
export function comparisonIn(clause: Phrase): Compared | undefined {
  // "The levels differ by more than 0.1 m" names no two things: a bound on each of them is not meant.
  return tolerance(clause) ?? (clause.has(differing) ? undefined : (range(clause) ?? bound(clause)));
}

function tolerance(clause: Phrase): Compared | undefined {
  const stated = clause.find(near);
  if (stated) {
    const [target, width] = quantitiesOf(stated.match);
    if (target && width) return { comparison: { k: 'near', target: { quantity: target }, tolerance: width }, ...around(stated) };
  }
  const of = clause.find(nearNoun);
  if (of) {
    const [width] = quantitiesOf(of.match);
    const [target] = of.behind.tokens[0]?.quantity ? quantitiesOf(of.behind.part(0, 1)) : [];
    if (width && target)
      return {
        comparison: { k: 'near', target: { quantity: target }, tolerance: width },
        subject: of.before.with(of.behind.part(1)),
        said: of.match,
      };
    if (width) return { comparison: { k: 'near', target: { noun: of.behind }, tolerance: width }, subject: of.before, said: of.match };
  }
  const from = clause.find(differFrom);
  const by = from?.behind.find(byMoreThan);
  if (from && by) {
    const [width] = quantitiesOf(by.match);
    if (width)
      return { comparison: { k: 'near', target: { noun: by.before }, tolerance: width }, subject: from.before, said: from.match.with(by.match) };
  }
  const both = clause.find(differBy);
  const pair = both?.before.find(wholeWords('and'));
  if (both && pair) {
    const [width] = quantitiesOf(both.match);
    if (width) return { comparison: { k: 'near', target: { noun: pair.behind }, tolerance: width }, subject: pair.before, said: both.match };
  }
  const zero = clause.find(nearZero);
  const [width] = zero ? quantitiesOf(zero.match) : [];
  return zero && width
    ? { comparison: { k: 'near', target: { quantity: { value: 0, unit: width.unit } }, tolerance: width }, ...around(zero) }
    : undefined;
}

function range(clause: Phrase): Compared | undefined {
  const found = clause.find(between);
  const [low, high] = found ? quantitiesOf(found.match) : [];
  if (!found || !low || !high) return undefined;
  return { comparison: { k: 'between', low: low.unit === '' ? { ...low, unit: high.unit } : low, high }, ...around(found) };
}

function bound(clause: Phrase): Compared | undefined {
  for (const [operator, pattern] of bounds) {
    const found = clause.find(pattern);
    if (!found) continue;
    const limit = limitAt(found.behind);
    const way = limit?.rest.find(eitherWay);
    if (limit && way && 'quantity' in limit.limit && operator === '>') {
      const { value, unit } = limit.limit.quantity;
      const subject = found.before.with(way.before).with(way.behind);
      return { comparison: { k: 'beyond', low: { value: -value, unit }, high: { value, unit } }, subject, said: found.match.with(way.match) };
    }
    if (limit)
      return { comparison: { k: 'bound', operator, limit: limit.limit, reaches: false }, subject: found.before.with(limit.rest), said: found.match };
  }
  const reached = clause.find(reaching);
  const level = reached && limitAt(reached.behind);
  if (reached && level && 'quantity' in level.limit) {
    const down = level.rest.has(wholeWords('downward|downwards'));
    return {
      comparison: { k: 'bound', operator: down ? '<=' : '>=', limit: level.limit, reaches: true },
      subject: reached.before.with(level.rest.without(wholeWords('downwards?|upwards?'))),
      said: reached.match,
    };
  }
  const bare = clause.find(wholeWords(q));
  const [quantity] = bare ? quantitiesOf(bare.match) : [];
  return bare && quantity ? { comparison: { k: 'bound', operator: '=', limit: { quantity }, reaches: false }, ...around(bare) } : undefined;
}

/** A quantity right behind the comparing words, or the noun phrase there. */
function limitAt(behind: Phrase): { limit: Limit; rest: Phrase } | undefined {
  const trimmed = leadingArticle.test(behind.text) ? behind.part(1) : behind;
  const first = trimmed.tokens[0];
  if (!first) return undefined;
  if (first.quantity) return { limit: { quantity: first.quantity }, rest: trimmed.part(1) };
  return { limit: { noun: trimmed }, rest: trimmed.part(trimmed.tokens.length) };
}

function around(found: { before: Phrase; match: Phrase; behind: Phrase }): { subject: Phrase; said: Phrase } {
  return { subject: found.before.with(found.behind), said: found.match };
}

function quantitiesOf(phrase: Phrase): Quantity[] {
  return phrase.tokens.flatMap((token: Token) => (token.quantity ? [token.quantity] : []));
}
