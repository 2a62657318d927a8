import { type Formula, type Interval, NotStl, readStl } from './read';

/** A typed formula put as a sentence. `note`: where the sentence says a little less or more than what was typed. */
export interface FormulaAsSentence {
  readonly sentence: string;
  readonly note?: string;
}

/**
 * Puts a formula of signal temporal logic as a sentence of the language, wherever one says the same.
 * @throws NotStl for a formula that cannot be read, or that no sentence says
 */
export function sentenceOfStl(text: string): FormulaAsSentence {
  const notes: string[] = [];
  const sentence = whole(readStl(text), notes);
  return { sentence, ...(notes.length > 0 ? { note: notes.join(' ') } : {}) };
}

function whole(formula: Formula, notes: string[]): string {
  if (formula.k === 'G' && isForever(formula.interval)) return throughout(formula.of, notes);
  // Without a G around it a formula is owed at the start of the run alone.
  return `when start, ${owed(formula, notes)}`;
}

function throughout(formula: Formula, notes: string[]): string {
  if (formula.k === 'not' && !hasTime(formula.of)) return `never ${plain(formula.of)}`;
  if (formula.k !== 'implies') return `always ${plain(formula)}`;
  const { a, b } = formula;
  if (a.k === 'event' && a.of.k === 'H') return `if ${plain(a.of.of)} for ${end(a.of.interval)}, ${owed(b, notes)}`;
  if (a.k === 'event') return `when ${event(a)}, ${owed(b, notes)}`;
  if (a.k === 'and' && a.a.k === 'event' && a.b.k === 'before') return `when ${event(a.a)} while ${plain(a.b.of)}, ${owed(b, notes)}`;
  if (a.k === 'and' && a.a.k === 'event')
    throw refusal('What holds at an event is looked at just before it.', 'Put ⁻ behind that condition: G (↑a ∧ (s)⁻ → …).');
  if (hasTime(b))
    throw refusal(
      'This is owed anew at every instant at which the condition holds; no sentence says that.',
      'Let an event begin it: G (↑(condition) → …), or ask for a condition alone on the right.',
    );
  if (a.k === 'H') return `while ${plain(a.of)} for ${end(a.interval)}, ${plain(b)}`;
  return `while ${plain(a)}, ${plain(b)}`;
}

function event({ how, of }: Formula & { k: 'event' }): string {
  return `${parenthesised(of)} ${{ '↑': 'rises', '↓': 'falls', '⇅': 'changes' }[how]}`;
}

/** What follows the trigger. */
function owed(formula: Formula, notes: string[]): string {
  if (!hasTime(formula)) return plain(formula);
  switch (formula.k) {
    case 'F':
      startsAtOnce(formula.interval);
      if (formula.of.k === 'G') {
        startsAtOnce(formula.of.interval);
        tellEnd(formula.of.interval, notes);
        return `within ${end(formula.interval)} ${parenthesised(formula.of.of)} for ${end(formula.of.interval)}`;
      }
      return `within ${end(formula.interval)} ${plain(formula.of)}`;
    case 'G':
      if (formula.interval.until === undefined) return `after ${formula.interval.from} ${plain(formula.of)}`;
      startsAtOnce(formula.interval);
      tellEnd(formula.interval, notes);
      return `for ${end(formula.interval)} ${plain(formula.of)}`;
    case 'W':
      return `${parenthesised(formula.a)} until ${parenthesised(formula.b)}`;
    case 'U':
      startsAtOnce(formula.interval);
      return `${parenthesised(formula.a)} until ${parenthesised(formula.b)} within ${end(formula.interval)}`;
    case 'and':
      return window(formula);
    default:
      throw refusal('No sentence says this.', 'On the right of → stand: b, F[0,d] b, G[0,d) b, G[d,∞) b, F[0,d] G[0,e) b, a W b, a U[0,d] b.');
  }
}

/** `G[0,a) ¬b ∧ F[a,d] b`: not before a, and no later than d. */
function window({ a, b }: Formula & { k: 'and' | 'or' | 'implies' }): string {
  const fits = a.k === 'G' && a.of.k === 'not' && b.k === 'F' && plain(a.of.of) === plain(b.of) && a.interval.until === b.interval.from;
  if (!fits) throw refusal('No sentence says both of these at once.', 'Write two criteria, one for each.');
  return `between ${b.interval.from} and ${end(b.interval)} ${plain(b.of)}`;
}

function hasTime(formula: Formula): boolean {
  switch (formula.k) {
    case 'plain':
      return false;
    case 'not':
      return hasTime(formula.of);
    case 'and':
    case 'or':
      return hasTime(formula.a) || hasTime(formula.b);
    case 'implies':
      return hasTime(formula.a) || hasTime(formula.b);
    case 'event':
    case 'before':
    case 'G':
    case 'F':
    case 'H':
    case 'O':
    case 'W':
    case 'U':
    case 'S':
      return true;
  }
}

/** A condition without time, in the words of the language. */
function plain(formula: Formula): string {
  switch (formula.k) {
    case 'plain':
      return formula.text;
    case 'not':
      return `NOT ${parenthesised(formula.of)}`;
    case 'and':
    case 'or':
      return `${parenthesised(formula.a)} ${formula.k === 'and' ? 'AND' : 'OR'} ${parenthesised(formula.b)}`;
    case 'implies':
      return `NOT ${parenthesised(formula.a)} OR ${parenthesised(formula.b)}`;
    default:
      throw refusal(
        'An operator in time stands where only a condition can be.',
        'Nested ones are said by: F[0,d] G[0,e) b. Past operators other than ↑H(0,d] and H(0,d] on the left of → have no sentence.',
      );
  }
}

function parenthesised(formula: Formula): string {
  const text = plain(formula);
  return /^[\w.]+$/.test(text) ? text : `(${text})`;
}

function isForever({ from, until, fromIncluded }: Interval): boolean {
  return until === undefined && Number.parseFloat(from) === 0 && fromIncluded;
}

function startsAtOnce({ from }: Interval): void {
  if (Number.parseFloat(from) !== 0)
    throw refusal('A window that opens later has no sentence by itself.', 'Say also that it is not before: G[0,a) ¬b ∧ F[a,d] b.');
}

function end({ until }: Interval): string {
  if (until === undefined) throw refusal('A time without an end is never broken on a trace.', 'Give the interval an end: F[0,30] b.');
  return until;
}

function tellEnd({ until, untilIncluded }: Interval, notes: string[]): void {
  if (untilIncluded) notes.push(`"for ${until}" ends just before ${until}; the formula as typed also asks for that very instant.`);
}

function refusal(message: string, fix: string): NotStl {
  return new NotStl(message, fix, 0);
}
