import { parseSentence, printStl } from '@/core/criteria';
import type { Part } from './clauses';
import { calibrated } from './confidence';
import { PartReader } from './partReader';
import { partsOfProse, withoutIdioms } from './parts';
import { empty, isPredicate, tendency, wholeWords } from './prose/lexicon';
import { numberPattern, numberValues, type Separators, separatorsOf } from './prose/numbers';
import { type Token, tokensOf } from './prose/tokens';
import { openWords, remarksOn } from './quality';
import { unsound } from './sound';
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
    const tokens = this.numbered(withoutIdioms(tokensOf(prose, separators)));
    const parts = partsOfProse(tokens, this.vocabulary);
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
      const because = unsound(sentence, tokens, placed, this.terms, open) ?? leftOut(part, placed);
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

/**
 * What a reading leaves out that it may not: what shall be, where none of its words has a place or says how a thing is; one of two words that do ("closed and locked");
 * or what is spoken of ("a fault of the pump"), where only what stands behind "of" has a place.
 */
function leftOut({ subject, response }: Part, placed: readonly ReadWord[]): string | undefined {
  const isPlaced = (token: Token): boolean => placed.some((word) => word.from <= token.from && token.to <= word.to);
  const says = response.tokens.filter((token) => isContent(token) || tendency(token.text) !== 0);
  const notSaid = says.some((token) => isPlaced(token) || isPredicate(token.text)) ? undefined : says[0];
  const pair = response.find(/[^ ]+ (?:and|or) [^ ]+/)?.match.tokens.filter(({ text }) => isPredicate(text)) ?? [];
  const ofPair = pair.length === 2 ? pair.find((token) => !isPlaced(token)) : undefined;
  const parted = subject.find(/(?<= )of(?= )/);
  const spokenOf = parted?.before.tokens.filter(isContent) ?? [];
  const notSpokenOf = parted?.behind.tokens.some(isPlaced) && !spokenOf.some(isPlaced) ? spokenOf[0] : undefined;
  const word = notSaid ?? ofPair ?? notSpokenOf;
  return word && `"${word.text}" has no place in it`;
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

function tokensIn({ subject, response, clauses, passedOver }: Part): Token[] {
  const all = [passedOver, subject, response, ...clauses.flatMap((clause) => [clause.phrase, clause.marker])].flatMap((phrase) => phrase.tokens);
  return all.filter((token, index) => all.findIndex((other) => other.from === token.from && other.to === token.to) === index);
}

/** Each stretch once, in order. */
function joinedWords(words: readonly ReadWord[]): ReadWord[] {
  const sorted = [...words].filter((word) => word.to > word.from).sort((a, b) => a.from - b.from || b.to - a.to);
  return sorted.filter((word, index) => sorted.findIndex((other) => other.from <= word.from && word.to <= other.to) === index);
}

const grammar = wholeWords(
  'shall|must|will|should|and|or|not|never|no|both|all|then|together|simultaneously|immediately|same|time|times|any|only|plus|minus',
);

function contentOf({ subject, response, clauses, passedOver }: Part): Token[] {
  return [passedOver, subject, response, ...clauses.map((clause) => clause.phrase)].flatMap((phrase) => phrase.tokens.filter(isContent));
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
