import type { Clause, Part } from './clauses';
import { conditionsOf, subjectOf } from './condition';
import { eventOf } from './event';
import { joined, type Meaning, negated } from './meaning';
import { measureIn } from './measures';
import { happening, wholeWords } from './prose/lexicon';
import { Phrase } from './prose/phrase';
import { type ReadTiming, timingsIn } from './timing';
import type { ReadWord } from './types';
import type { Vocabulary } from './vocabulary';

/** A sentence that a part may mean, with what it rests on. */
export interface Candidate {
  readonly sentence: string;
  readonly score: number;
  readonly words: readonly ReadWord[];
  readonly supposed: readonly string[];
}

/** The trigger of a criterion: as an event, or as a condition that lasts. */
interface Trigger {
  readonly text: string;
  readonly meaning: Meaning;
}

/** Reads one "shall" with its clauses. */
export class PartReader {
  private readonly timings: readonly ReadTiming[];
  private readonly response: Phrase;
  /** Words that ask for an answer at the same instant. */
  private readonly instantly: readonly ReadWord[];

  constructor(
    private readonly part: Part,
    private readonly vocabulary: Vocabulary,
  ) {
    const { timings, rest: timed } = timingsIn(part.response);
    const now = timed.find(atOnceWords);
    this.instantly = now && timings.length === 0 ? now.match.tokens.map(({ from, to }) => ({ from, to, as: 'at once' })) : [];
    const rest = this.instantly.length > 0 ? timed.without(atOnceWords) : timed;
    const handed = part.clauses.flatMap((clause) => timingsIn(clause.marker).timings);
    this.timings = [...timings, ...handed];
    this.response = rest;
  }

  readings(): Candidate[] {
    const features = this.part.clauses.filter((clause) => this.isFeature(clause));
    const words = features.flatMap((one) => [...marked(one), ...one.phrase.tokens.map(({ from, to }) => ({ from, to, as: 'feature' }))]);
    const supposed = features.map(({ phrase }) => `it is about a plant where ${phrase.text}`);
    return this.allReadings().map((one) => ({
      ...one,
      score: features.length > 0 ? Math.min(one.score, 0.69) : one.score,
      words: [...one.words, ...words, ...this.instantly],
      supposed: [...one.supposed, ...supposed],
    }));
  }

  /** Where something is fitted says of which plant the rest speaks; a run cannot show it, unless a signal of the project says that it is fitted. */
  private isFeature({ tie, phrase }: Clause): boolean {
    const fitted = phrase.find(fittedOut)?.match.tokens[0];
    if (tie !== 'feature' || !fitted) return false;
    if (!this.vocabulary.has(fitted.text)) return true;
    const [best] = conditionsOf(phrase, this.vocabulary, this.part.subject);
    return !best?.words.some((word) => word.from <= fitted.from && fitted.to <= word.to);
  }

  private allReadings(): Candidate[] {
    const { clauses } = this.part;
    const of = (tie: Clause['tie'][]): Clause[] => clauses.filter((clause) => tie.includes(clause.tie));
    const meanings = this.owed();
    const states = this.conditions(of(['state', 'feature']).filter((one) => !this.isFeature(one) && !isOnwards(one)));
    const unless = this.conditions(of(['unless']))?.map(negated);
    const only = this.conditions(of(['only']));
    const before = of(['before'])[0];
    const until = of(['until'])[0];
    const triggers = of(['event', 'when', 'if']);
    const measured =
      triggers.length === 0 && !before && !until && only?.length === 0 ? this.measured([...(states ?? []), ...(unless ?? [])]) : undefined;
    if (measured) return [measured];
    if (!states || !unless || !only || meanings.length === 0) return [];
    const during = [...states, ...unless];
    if (only.length > 0) {
      const whiles = meanings.map((owed) => this.while([...during, owed], joined('and', only)));
      // "Shall start only if C" may ask for C at the start alone.
      if (!this.response.has(beginning)) return whiles;
      const begins = meanings.map((owed) => ({ text: eventOf(owed, new Phrase([])), meaning: owed }));
      return [...begins.map((event) => this.when(event, joined('and', only), during, '')), ...whiles];
    }
    // A time before an event asks for foresight: no sentence says that.
    if (before) return this.timings.length > 0 ? [] : this.before(before, meanings, during);
    if (triggers.length > 0) return meanings.flatMap((owed) => this.triggered(triggers, owed, during, until));
    if (unless.length > 0 && this.timings.length === 0 && states.length === 0 && this.isExclusion()) {
      // "Shall not X unless C": where X, C.
      return meanings.map((owed) => this.while([negated(owed)], joined('and', unless.map(negated))));
    }
    if (this.timings.length > 0) return this.timedState(meanings, during, until);
    if (until) return this.heldUntil(until, meanings, during);
    return meanings.map((owed) => (during.length > 0 ? this.while(during, owed) : this.always(owed)));
  }

  /** A figure over time, in a state where there is one. */
  private measured(during: readonly Meaning[]): Candidate | undefined {
    const found = measureIn(this.part, this.vocabulary);
    if (!found) return undefined;
    const { text, words, supposed } = found;
    const condition = during.length > 0 ? joined('and', during).text : undefined;
    const sentence = found.isCondition
      ? condition
        ? `while ${condition}, ${text}`
        : `always ${text}`
      : condition
        ? `${text} while ${condition}`
        : text;
    return {
      sentence,
      score: during.reduce((product, one) => product * one.score, found.score),
      words: [...words, ...during.flatMap((one) => one.words)],
      supposed: [...supposed, ...during.flatMap((one) => one.supposed)],
    };
  }

  /** "Shall remain closed until C": from when it is so, or from the start of a run. */
  private heldUntil(until: Clause, meanings: readonly Meaning[], during: readonly Meaning[]): Candidate[] {
    const release = this.condition(until);
    if (!release || !this.response.has(wholeWords('remain|stay|be kept|be held|continue'))) return [];
    return meanings.flatMap((owed) => {
      const begin: Trigger = { text: eventOf({ ...owed, ...(owed.state ? { state: true } : {}) }, new Phrase([])), meaning: owed };
      const first = this.when(begin, owed, during, ` until ${release.text}`, release);
      return [first, { ...first, score: first.score * 0.9, sentence: `when start, ${owed.text} until ${release.text}` }];
    });
  }

  /** "Shall not X unless C", with "unless" behind the response. */
  private isExclusion(): boolean {
    const start = this.part.response.tokens[0]?.from ?? 0;
    if (!this.part.subject.with(this.part.response).has(wholeWords('not|never|no'))) return false;
    return this.part.clauses.some((clause) => clause.tie === 'unless' && (clause.marker.tokens[0]?.from ?? 0) > start);
  }

  private owed(): Meaning[] {
    const { subject } = this.part;
    return conditionsOf(subject.with(this.response), this.vocabulary, this.antecedent());
  }

  /** What "it" stands for: the subject of the first clause. */
  private antecedent(): Phrase {
    const [first] = this.part.clauses;
    return first ? subjectOf(first.phrase) : new Phrase([]);
  }

  /** The conditions of clauses; `undefined` when one of them cannot be read. */
  private conditions(clauses: readonly Clause[]): Meaning[] | undefined {
    const read = clauses.map((clause) => this.condition(clause));
    return read.every((one) => one !== undefined) ? read : undefined;
  }

  private condition(clause: Clause): Meaning | undefined {
    const [best] = conditionsOf(clause.phrase, this.vocabulary, this.part.subject);
    return best && { ...best, words: [...best.words, ...marked(clause)] };
  }

  private while(during: readonly Meaning[], owed: Meaning, more: readonly Meaning[] = []): Candidate {
    const condition = joined('and', [...more, ...during]);
    return { ...candidate([condition, owed], this.timings), sentence: `while ${condition.text}, ${owed.text}` };
  }

  private always(owed: Meaning): Candidate {
    const never = /^NOT \((.*)\)$/.exec(owed.text) ?? (owed.denied ? /^NOT (.*)$/.exec(owed.text) : null);
    return { ...candidate([owed], []), sentence: never ? `never ${never[1]}` : `always ${owed.text}` };
  }

  private before(clause: Clause, meanings: readonly Meaning[], during: readonly Meaning[]): Candidate[] {
    const event = this.events(clause)[0];
    return event ? meanings.map((owed) => this.when(event, owed, during, '')) : [];
  }

  private triggered(triggers: readonly Clause[], owed: Meaning, during: readonly Meaning[], until: Clause | undefined): Candidate[] {
    const [first, ...others] = triggers;
    if (!first) return [];
    const more = this.conditions(others);
    if (!more) return [];
    const lasting = timingsIn(first.phrase);
    const onwards = lasting.timings[0] ? this.part.clauses.find(isOnwards) : undefined;
    if (lasting.timings[0] && onwards && this.timings.length === 0) return this.onceLasted(first, onwards, lasting.rest, lasting.timings[0], owed);
    if (lasting.timings[0]) return this.lasting(first, lasting.rest, lasting.timings[0], owed, [...during, ...more]);
    const release = until && this.condition(until);
    if (until && !release) return [];
    const behind = release ? ` until ${release.text}` : '';
    const within = this.owedTiming();
    if (within === undefined) return [];
    const answers = this.events(first).map((event) => this.when(event, owed, [...during, ...more], behind, release));
    const mayBeState = first.tie !== 'event' && this.timings.length === 0 && !until;
    if (!mayBeState) return answers;
    if (happens(first.phrase) && !first.phrase.has(settled)) return answers;
    const state = this.condition(first);
    // "When the speed is above 10, the brake shall not be applied" speaks of all that time, or of its beginning.
    if (!state) return answers;
    const lasts = this.while([state, ...during, ...more], owed);
    // "When the door is locked" may speak of the locking, or of all the time it is.
    if (happens(first.phrase))
      return [...answers, { ...lasts, score: lasts.score * 0.8 }].map((one) => ({ ...one, score: Math.min(one.score, 0.69) }));
    return [lasts, ...answers.map((one) => ({ ...one, score: one.score * 0.7 }))];
  }

  private lasting(clause: Clause, rest: Phrase, time: ReadTiming, owed: Meaning, during: readonly Meaning[]): Candidate[] {
    const within = this.owedTiming();
    const [condition] = conditionsOf(rest, this.vocabulary, this.part.subject);
    if (!condition || within === undefined) return [];
    const at = during.length > 0 ? ` while ${joined('and', during).text}` : '';
    const words = [...marked(clause), ...time.words];
    const sentence = `if ${condition.text} ${time.text}${at}, ${within(owed.text)}`;
    return [{ ...candidate([{ ...condition, words: [...condition.words, ...words] }, owed, ...during], this.timings), sentence }];
  }

  /** "Once S has lasted D, P for as long as it does". */
  private onceLasted(clause: Clause, onwards: Clause, rest: Phrase, time: ReadTiming, owed: Meaning): Candidate[] {
    const [condition] = conditionsOf(rest, this.vocabulary, this.part.subject);
    if (!condition) return [];
    const goesOn = [...marked(onwards), ...onwards.phrase.tokens.map(({ from, to }) => ({ from, to, as: 'as long as it goes on' }))];
    const words = [...condition.words, ...marked(clause), ...time.words, ...goesOn];
    return [{ ...candidate([{ ...condition, words }, owed], []), sentence: `while ${condition.text} ${time.text}, ${owed.text}` }];
  }

  /** A deadline without an event: counted from the beginning of the state, where the subject is one; else from that of the clause. */
  private timedState(meanings: readonly Meaning[], during: readonly Meaning[], until: Clause | undefined): Candidate[] {
    const [own] = this.vocabulary.truths(this.part.subject);
    const [first] = during;
    const within = this.owedTiming();
    if (within === undefined || until) return [];
    if (own?.term.kind === 'state' && own.score > 0.6 && during.length === 0) {
      const ends = this.response.has(wholeWords('finished|complete|completed|ended|over|left|done'));
      const lasts = this.response.has(wholeWords('last|lasts|take|remain|continue'));
      const state = meanings[0];
      if ((ends || lasts) && state) {
        const as = ends ? `NOT ${own.term.name}` : own.term.name;
        return [{ ...candidate([{ ...state, score: own.score }], this.timings), sentence: `when enters ${own.term.name}, ${within(as)}` }];
      }
    }
    if (!first) return [];
    return meanings.map((owed) => {
      const reading = this.when({ text: eventOf(joined('and', during), new Phrase([])), meaning: joined('and', during) }, owed, [], '');
      return { ...reading, score: reading.score * 0.7, supposed: [...reading.supposed, 'the time counts from where the condition begins'] };
    });
  }

  private when(event: Trigger, owed: Meaning, during: readonly Meaning[], behind: string, release?: Meaning): Candidate {
    const at = during.length > 0 ? ` while ${joined('and', during).text}` : '';
    const within = this.owedTiming() ?? ((text: string) => text);
    return {
      ...candidate([event.meaning, owed, ...during, ...(release ? [release] : [])], this.timings),
      sentence: `when ${event.text}${at}, ${within(owed.text)}${behind}`,
    };
  }

  /** What is owed, with its time around it; `undefined` for times that fit no sentence. */
  private owedTiming(): ((holds: string) => string) | undefined {
    const [first, second] = this.timings;
    if (!first) return (holds) => holds;
    if (!second) return (holds) => `${first.text} ${holds}`;
    const within = this.timings.find((one) => one.k === 'within');
    const lasting = this.timings.find((one) => one.k === 'for');
    return this.timings.length === 2 && within && lasting ? (holds) => `${within.text} ${holds} ${lasting.text}` : undefined;
  }

  /** A clause as an event. Several conditions in it may come in any order: each order is a reading of its own. */
  private events(clause: Clause): Trigger[] {
    const pieces = clause.phrase.text.includes(' and ') ? splitAnd(clause.phrase) : [clause.phrase];
    const meanings = pieces.map(
      (piece, index) => conditionsOf(piece, this.vocabulary, index === 0 ? this.part.subject : subjectOf(pieces[0] as Phrase))[0],
    );
    const [a, b] = meanings;
    const words = marked(clause);
    if (pieces.length === 2 && a && b) {
      const [firstHappens, secondHappens] = pieces.map((piece, index) => happens(piece) && (!meanings[index]?.state || piece.has(changing)));
      const whileOf = (event: Meaning, piece: Phrase, state: Meaning, score: number): Trigger => ({
        text: `${eventOf(event, piece)} while ${state.text}`,
        meaning: {
          ...joined('and', [event, state]),
          score: Math.min(event.score, state.score) * score,
          words: [...event.words, ...state.words, ...words],
        },
      });
      const last: Trigger = {
        text: `${joined('and', [a, b]).text} rises`,
        meaning: { ...joined('and', [a, b]), words: [...a.words, ...b.words, ...words] },
      };
      const [one, two] = pieces as [Phrase, Phrase];
      if (firstHappens && !secondHappens) return [whileOf(a, one, b, 1), { ...last, meaning: { ...last.meaning, score: last.meaning.score * 0.7 } }];
      if (secondHappens && !firstHappens) return [whileOf(b, two, a, 1), { ...last, meaning: { ...last.meaning, score: last.meaning.score * 0.7 } }];
      return [last, whileOf(a, one, b, 0.9), whileOf(b, two, a, 0.85)];
    }
    return conditionsOf(clause.phrase, this.vocabulary, this.part.subject).flatMap((meaning): Trigger[] => {
      const placed = { ...meaning, words: [...meaning.words, ...words] };
      const event = { text: eventOf(meaning, clause.phrase), meaning: placed };
      // After a state, and nothing that happens to it: once it is over, or once it is entered.
      const isAfter =
        meaning.state &&
        clause.marker.has(wholeWords('after|following')) &&
        !happens(clause.phrase) &&
        !clause.phrase.has(wholeWords('is|are|has|have'));
      return isAfter
        ? [
            { text: `leaves ${meaning.text}`, meaning: placed },
            { ...event, meaning: { ...placed, score: placed.score * 0.85 } },
          ]
        : [event];
    });
  }
}

/** "As long as it stays above": of what was said before. */
function isOnwards({ marker, phrase }: Clause): boolean {
  return marker.has(wholeWords('as long as|so long as')) && phrase.has(wholeWords('it|they|this'));
}

const fittedOut = wholeWords('fitted|installed|provided|present|included|equipped|available|used');
const atOnceWords = wholeWords('immediately|at once|instantly|without delay');

/** Participles of what happens that also say how a thing stays. */
const settled = wholeWords(
  '(?:is|are) (?:locked|unlocked|closed|opened|extended|retracted|connected|disconnected|released|applied|plugged|fastened)',
);

/** Verbs behind "shall" that say of something that it begins. */
const beginning = /^(?:start|begin|open|close|be (?:started|begun|switched|turned))(?![^ ])/;

/** Verbs that say of a state that it begins or ends; "is stopped" only names it. */
const changing = wholeWords('enters|enter|entering|becomes|become|leaves|leave|leaving|changes|starts|stops|begins');

function happens(phrase: Phrase): boolean {
  return phrase.has(happening);
}

function splitAnd(phrase: Phrase): Phrase[] {
  const found = phrase.find(wholeWords('and'));
  if (!found || /(?:between|range(?: of| from)?) #[qt]$/.test(found.before.text)) return [phrase];
  return [found.before, found.behind];
}

function candidate(meanings: readonly Meaning[], timings: readonly ReadTiming[]): Omit<Candidate, 'sentence'> {
  return {
    score: meanings.reduce((product, one) => product * one.score, 1),
    words: [...meanings.flatMap((one) => one.words), ...timings.flatMap((one) => one.words)],
    supposed: [...new Set(meanings.flatMap((one) => one.supposed))],
  };
}

const roles: Readonly<Record<Clause['tie'], string>> = {
  event: 'event',
  when: 'event',
  if: 'event or condition',
  state: 'condition',
  until: 'release',
  unless: 'exception',
  only: 'the only condition',
  before: 'event',
  feature: 'feature',
};

function marked({ marker, tie }: Clause): ReadWord[] {
  return marker.tokens.filter((token) => !token.quantity).map((token) => ({ from: token.from, to: token.to, as: roles[tie] }));
}
