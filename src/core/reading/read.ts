import { parseSentence, printStl } from '@/core/criteria';
import { type Clause, type Part, partsOf } from './clauses';
import { conditionsOf, subjectOf } from './condition';
import { calibrated } from './confidence';
import { empty, happening, tendency, wholeWords } from './lexicon';
import { joined, type Meaning, negated } from './meaning';
import { numberPattern, numberValues, type Separators, separatorsOf } from './numbers';
import { Phrase } from './phrase';
import { openWords, remarksOn } from './quality';
import { unsound } from './sound';
import { type ReadTiming, timingsIn } from './timing';
import { type Token, tokensOf } from './tokens';
import type { HouseWords, NotRead, Proposal, Reading, ReadWord, Remark, Term, Unplaced } from './types';
import { Vocabulary } from './vocabulary';

/** At most so many ways to understand one part are told. */
const mostReadings = 3;

/**
 * Reads the prose of one requirement into proposals of criteria, by rules: clauses after EARS (Mavin et al. 2009), comparisons, times,
 * names. Deterministic; nothing it proposes counts until a person accepts it.
 */
export class Reader {
  private readonly vocabulary: Vocabulary;
  private readonly terms: ReadonlyMap<string, Term>;

  /** @param terms what prose may speak of: `termsOf` a loop's catalogue */
  constructor(
    terms: readonly Term[],
    private readonly house: HouseWords,
  ) {
    this.vocabulary = new Vocabulary(terms, house);
    this.terms = new Map(terms.map((term) => [term.name, term]));
  }

  read(prose: string): Reading {
    const reading = this.readOnly(prose);
    return { ...reading, quality: remarksOn(prose, this.house.vague, reading, (word) => this.vocabulary.has(word)) };
  }

  private readOnly(prose: string): Omit<Reading, 'quality'> {
    // A number that can be taken in two ways is read in both, and said to be.
    const ways = separatorsOf(prose).map((separators) => this.readWith(prose, separators));
    const [first, second] = ways;
    if (!first || !second) return first ?? { proposals: [], notRead: [], unplaced: [] };
    const more = second.proposals.filter((one) => first.proposals.every((other) => other.sentence !== one.sentence));
    if (more.length === 0) return first;
    const doubtful = [...first.proposals, ...more]
      .sort((a, b) => a.part - b.part)
      .map((one) => ({ ...one, confidence: Math.min(one.confidence, doubted) }));
    return { ...first, proposals: doubtful };
  }

  private readWith(prose: string, separators: Separators): Omit<Reading, 'quality'> {
    const tokens = this.numbered(tokensOf(prose, separators));
    const parts = sentencesOf(tokens).flatMap((sentence) => partsOf(sentence));
    const open = openWords(prose, this.house.vague);
    const read = parts.map((part, index) => this.proposals(part, index + 1, open));
    const taken = takenIn(prose, separators);
    const proposals = read.flatMap((one) => one.proposals).map((one) => (taken.length > 0 ? { ...one, supposed: [...one.supposed, ...taken] } : one));
    return { proposals, notRead: read.flatMap((one) => one.notRead ?? []), unplaced: unplaced(tokens, proposals, prose) };
  }

  /** "Pump 1" is a name where one has that number; its figure is no limit. */
  private numbered(tokens: readonly Token[]): Token[] {
    return tokens.map((token, index) => {
      const before = tokens[index - 1];
      const digits = String(token.quantity?.value ?? '');
      const named = token.quantity?.unit === '' && before?.kind === 'word' && this.vocabulary.numbers(before.text, digits);
      return named ? { kind: 'word', text: digits, from: token.from, to: token.to } : token;
    });
  }

  private proposals(part: Part, number: number, open: readonly Remark[]): { readonly proposals: readonly Proposal[]; readonly notRead?: NotRead } {
    const readings = new PartReader(part, this.vocabulary).readings().sort((a, b) => b.score - a.score);
    const different = readings
      .filter((one, index) => readings.findIndex((other) => other.sentence === one.sentence) === index)
      .slice(0, mostReadings);
    const tokens = tokensIn(part);
    let notRead: NotRead | undefined;
    const proposals = different.flatMap(({ sentence, score, words, supposed }) => {
      const parsed = parseSentence(sentence).sentence;
      if (!parsed) return [];
      const placed = joinedWords(words);
      const because = unsound(sentence, tokens, placed, this.terms, open);
      if (because !== undefined) {
        notRead ??= { part: number, because, words: placed };
        return [];
      }
      const left = contentOf(part).filter((token) => !placed.some((word) => word.from <= token.from && token.to <= word.to)).length;
      const confidence = calibrated({ score, left, alternatives: different.length, supposed: supposed.length });
      return [{ part: number, sentence, stl: printStl(parsed), confidence, words: placed, supposed }];
    });
    return { proposals, ...(proposals.length === 0 && notRead ? { notRead } : {}) };
  }
}

/** Two ways to take a number: no better than one of two. */
const doubted = 0.5;

/** How numbers were taken that can be taken otherwise. */
function takenIn(prose: string, separators: Separators): string[] {
  const found = [...prose.matchAll(new RegExp(`(?<![\\w.,])${numberPattern}`, 'gu'))].flatMap(([text]) => {
    const values = numberValues(text);
    const taken = values.find((one) => one.separators === separators);
    return taken && values.length > 1 && separatorsOf(prose).length > 1 ? [`${text} is ${taken.value}`] : [];
  });
  return [...new Set(found)];
}

function tokensIn({ subject, response, clauses }: Part): Token[] {
  const all = [subject, response, ...clauses.flatMap((clause) => [clause.phrase, clause.marker])].flatMap((phrase) => phrase.tokens);
  return all.filter((token, index) => all.findIndex((other) => other.from === token.from && other.to === token.to) === index);
}

interface Candidate {
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
class PartReader {
  private readonly timings: readonly ReadTiming[];
  private readonly response: Phrase;

  constructor(
    private readonly part: Part,
    private readonly vocabulary: Vocabulary,
  ) {
    const { timings, rest } = timingsIn(part.response);
    const handed = part.clauses.flatMap((clause) => timingsIn(clause.marker).timings);
    this.timings = [...timings, ...handed];
    this.response = rest;
  }

  readings(): Candidate[] {
    const { clauses } = this.part;
    const of = (tie: Clause['tie'][]): Clause[] => clauses.filter((clause) => tie.includes(clause.tie));
    const meanings = this.owed();
    const states = this.conditions(of(['state', 'feature']));
    const unless = this.conditions(of(['unless']))?.map(negated);
    const only = this.conditions(of(['only']));
    const before = of(['before'])[0];
    const until = of(['until'])[0];
    const triggers = of(['event', 'when', 'if']);
    if (!states || !unless || !only || meanings.length === 0) return [];
    const during = [...states, ...unless];
    if (only.length > 0) return meanings.map((owed) => this.while([...during, owed], joined('and', only)));
    // A time before an event asks for foresight: no sentence says that.
    if (before) return this.timings.length > 0 ? [] : this.before(before, meanings, during);
    if (triggers.length > 0) return meanings.flatMap((owed) => this.triggered(triggers, owed, during, until));
    if (unless.length > 0 && this.timings.length === 0 && states.length === 0 && this.isExclusion()) {
      // "Shall not X unless C": where X, C.
      return meanings.map((owed) => this.while([negated(owed)], joined('and', unless.map(negated))));
    }
    if (this.timings.length > 0) return this.timedState(meanings, during, until);
    if (until) return [];
    return meanings.map((owed) => (during.length > 0 ? this.while(during, owed) : this.always(owed)));
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
    if (lasting.timings[0]) return this.lasting(first, lasting.rest, lasting.timings[0], owed, [...during, ...more]);
    const release = until && this.condition(until);
    if (until && !release) return [];
    const behind = release ? ` until ${release.text}` : '';
    const within = this.owedTiming();
    if (within === undefined) return [];
    const answers = this.events(first).map((event) => this.when(event, owed, [...during, ...more], behind, release));
    const isState = first.tie !== 'event' && this.timings.length === 0 && !until && !happens(first.phrase);
    if (!isState) return answers;
    const state = this.condition(first);
    // "When the speed is above 10, the brake shall not be applied" speaks of all that time, or of its beginning.
    return state ? [this.while([state, ...during, ...more], owed), ...answers.map((one) => ({ ...one, score: one.score * 0.7 }))] : answers;
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
    return conditionsOf(clause.phrase, this.vocabulary, this.part.subject).map((meaning) => ({
      text: eventOf(meaning, clause.phrase),
      meaning: { ...meaning, words: [...meaning.words, ...words] },
    }));
  }
}

const leaving = wholeWords('leaves|leave|left|leaving|ends|ended|exits|end|is left|exit|finishes');

/** A condition's beginning, as a sentence writes it. */
function eventOf(meaning: Meaning, phrase: Phrase): string {
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

/** Each stretch once, in order. */
function joinedWords(words: readonly ReadWord[]): ReadWord[] {
  const sorted = [...words].filter((word) => word.to > word.from).sort((a, b) => a.from - b.from || b.to - a.to);
  return sorted.filter((word, index) => sorted.findIndex((other) => other.from <= word.from && word.to <= other.to) === index);
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

const grammar = wholeWords(
  'shall|must|will|should|and|or|not|never|no|both|all|then|together|simultaneously|immediately|same|time|times|any|only|plus|minus',
);

function contentOf({ subject, response, clauses }: Part): Token[] {
  return [subject, response, ...clauses.map((clause) => clause.phrase)].flatMap((phrase) => phrase.tokens.filter(isContent));
}

function isContent(token: Token): boolean {
  if (token.kind === 'mark') return false;
  return token.kind === 'quantity' || (!empty.has(token.text) && !grammar.test(token.text) && tendency(token.text) === 0);
}

/** Words that no proposal accounts for. */
function unplaced(tokens: readonly Token[], proposals: readonly Proposal[], prose: string): Unplaced[] {
  const words = proposals.flatMap((proposal) => proposal.words);
  return tokens
    .filter((token) => isContent(token) && !words.some((word) => word.from <= token.from && token.to <= word.to))
    .map(({ from, to }) => ({ from, to, text: prose.slice(from, to) }));
}
