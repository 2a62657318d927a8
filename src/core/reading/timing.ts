import { wholeWords } from './prose/lexicon';
import type { Phrase } from './prose/phrase';
import { type Quantity, written } from './prose/tokens';
import type { ReadWord } from './types';

/** When something is owed, as a sentence writes it around the condition. */
export interface ReadTiming {
  readonly k: 'within' | 'for' | 'after' | 'between';
  readonly text: string;
  readonly words: readonly ReadWord[];
}

const since = '(?: (?:of|from|after|following))?';
const patterns: readonly (readonly [ReadTiming['k'], RegExp])[] = [
  [
    'between',
    wholeWords(
      '(?:between|no earlier than|not earlier than|not before|no sooner than) #t and (?:no later than |not later than |at the latest )?#t|#t to #t(?= after| of| from|$)',
    ),
  ],
  [
    'within',
    wholeWords(
      '(?:within|no later than|not later than|at the latest|in less than|in under|in no more than|in at most|in|by no later than|inside|not more than|no more than|at most|before the end of) (?:a maximum of |at most |the next )?#t(?: at the latest| at most)?',
    ),
  ],
  [
    'for',
    wholeWords(
      'for (?:at least |a minimum of |a period of |no less than |not less than |a further |the next |another |more than |longer than |over )?#t(?: or (?:more|longer))?|at least #t(?! before| after| earlier)',
    ),
  ],
  ['after', wholeWords(`after (?:a delay of |a time of |a period of )?#t`)],
];

/** Takes the times out of a response: what is owed when, and the words that are left. */
export function timingsIn(response: Phrase): { readonly timings: readonly ReadTiming[]; readonly rest: Phrase } {
  for (const [k, pattern] of patterns) {
    const found = response.find(pattern);
    if (!found) continue;
    const times = found.match.tokens.flatMap((token) => (token.quantity ? [token.quantity] : []));
    const behind = found.behind.find(new RegExp(`^${since.trim()}`))?.match.isEmpty === false ? found.behind : found.behind;
    const more = timingsIn(found.before.with(behind));
    return { timings: [{ k, text: printed(k, times), words: spans(found.match, k) }, ...more.timings], rest: more.rest };
  }
  return { timings: [], rest: response };
}

function printed(k: ReadTiming['k'], times: readonly Quantity[]): string {
  const [first, second] = times.map((time) => written(time).text);
  return k === 'between' ? `between ${first} and ${second}` : `${k} ${first}`;
}

function spans(match: Phrase, k: ReadTiming['k']): ReadWord[] {
  const as = { within: 'deadline', for: 'duration', after: 'delay', between: 'window of time' }[k];
  return [{ from: match.tokens[0]?.from ?? 0, to: match.tokens.at(-1)?.to ?? 0, as }];
}
