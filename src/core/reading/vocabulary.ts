import Fuse from 'fuse.js';
import { areContrary, empty, isPredicate, stem, tendency, weak } from './prose/lexicon';
import type { Phrase } from './prose/phrase';
import type { Token } from './prose/tokens';
import type { HouseWords, Term } from './types';

/** A term with its words taken apart. */
interface Known {
  readonly term: Term;
  /** Words of the name, the last part's at the end. */
  readonly name: readonly string[];
  readonly stems: readonly string[];
  /** Stems of the part of the name that a sentence writes; the rest need not be said. */
  readonly short: readonly string[];
  readonly about: ReadonlySet<string>;
  readonly synonyms: readonly (readonly string[])[];
}

/** A term a phrase may mean, how well it fits, and whether the phrase says it or denies it. */
export interface Match {
  readonly term: Term;
  /** 0 to 1. */
  readonly score: number;
  readonly denied: boolean;
  /** The tokens it accounts for. */
  readonly tokens: readonly Token[];
  /** What was supposed, such as that what is not closed is open. */
  readonly supposed?: string;
}

const ordinals: ReadonlyMap<string, string> = new Map([
  ['first', '1'],
  ['second', '2'],
  ['third', '3'],
  ['fourth', '4'],
]);

/** Everything prose can speak of in a project, to be found by words of names, explanations and synonyms. */
export class Vocabulary {
  private readonly known: readonly Known[];
  private readonly spelling: Fuse<string>;
  private readonly stems: ReadonlySet<string>;

  constructor(terms: readonly Term[], house: HouseWords) {
    this.known = terms.map((term) => known(term, house));
    const words = [...new Set(this.known.flatMap((one) => [...one.name, ...one.about, ...one.synonyms.flat()]))].filter((word) => word.length > 3);
    this.spelling = new Fuse(words, { threshold: 0.2, distance: 4, minMatchCharLength: 4, includeScore: true });
    this.stems = new Set(this.known.flatMap((one) => [...one.stems, ...[...one.about].map(stem), ...one.synonyms.flat().map(stem)]));
  }

  /** Quantities and whole numbers a noun phrase may mean, the best first. `fits` says whether a unit can be meant. */
  quantities(phrase: Phrase, fits: (term: Term) => boolean): Match[] {
    const candidates = this.known.filter(({ term }) => (term.kind === 'quantity' || term.kind === 'whole') && fits(term));
    return this.rank(phrase, candidates, false);
  }

  /** Truths and states a clause may mean, the best first. */
  truths(phrase: Phrase): Match[] {
    return this.rank(
      phrase,
      this.known.filter(({ term }) => term.kind === 'truth' || term.kind === 'state'),
      true,
    );
  }

  private rank(phrase: Phrase, candidates: readonly Known[], predicates: boolean): Match[] {
    const content = phrase.tokens.filter((token) => token.kind === 'word' && (!empty.has(token.text) || weak.has(token.text)));
    if (content.length === 0) return [];
    const words = content.map((token) => ({ token, word: this.spelled(token.text) }));
    const underWay = /(?:^| )(?:is|are|be|in|to|enters?) (\w+ing)(?= |$)/.exec(phrase.text)?.[1];
    return candidates
      .flatMap((one) => {
        const match = predicates ? matchTruth(one, words, underWay) : matchNoun(one, words);
        return match ? [one.term.inner ? { ...match, score: match.score * 0.92 } : match] : [];
      })
      .sort((a, b) => b.score - a.score);
  }

  /** A word as the vocabulary spells it: one that is nearly a known word is taken for it. */
  private spelled(word: string): string {
    if (word.length < 5 || this.stems.has(stem(word)) || empty.has(word) || tendency(word) !== 0) return word;
    const [best] = this.spelling.search(word, { limit: 1 });
    return best && Math.abs(best.item.length - word.length) <= 1 && best.item[0] === word[0] ? best.item : word;
  }

  /** Whether a name has a word with just that number behind it, as in "pump 1". */
  numbers(word: string, digits: string): boolean {
    return this.known.some(
      ({ name, about }) => name.some((one, at) => stem(one) === stem(word) && name[at + 1] === digits) || (about.has(word) && about.has(digits)),
    );
  }

  /** Whether a phrase is the own name of a state, and nothing else. */
  isState(phrase: Phrase): boolean {
    return this.known.some(({ term }) => term.kind === 'state' && wordsOf(term.name.split('.').at(-1) ?? '').join(' ') === phrase.text);
  }

  /** Whether any term has the word in its name or explanation. */
  has(word: string): boolean {
    return this.stems.has(stem(this.spelled(word)));
  }
}

function known(term: Term, house: HouseWords): Known {
  const name = (term.path ?? term.name).split('.').flatMap(wordsOf);
  const about = new Set(wordsOf(term.about).filter((word) => !empty.has(word) || weak.has(word)));
  const synonyms = Object.entries(house.synonyms).flatMap(([phrase, meant]) =>
    meant.toLowerCase() === term.name.toLowerCase() ? [wordsOf(phrase).filter((word) => !empty.has(word))] : [],
  );
  return { term, name, stems: name.map(stem), short: term.name.split('.').flatMap(wordsOf).map(stem), about, synonyms };
}

/** `OutOfService`, `fill_paddle` and "first pump" as words in small letters; digits stand alone. */
function wordsOf(text: string): string[] {
  return text
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .replace(/([A-Za-z])(\d)/g, '$1 $2')
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .filter((word) => word !== '');
}

interface Word {
  readonly token: Token;
  readonly word: string;
}

/** How well a word of the prose fits a term: 1 in the name, less by its stem or in the explanation. */
function fit({ name, about, synonyms }: Known, word: string): number {
  const also = ordinals.get(word);
  if (name.includes(word) || (also && name.includes(also))) return 1;
  if (synonyms.some((words) => words.includes(word))) return 1;
  if (name.some((own) => areAlike(own, word))) return 0.9;
  const predicate = isPredicate(word) ? 0.25 : 0;
  if (about.has(word)) return 0.7 + predicate;
  return [...about].some((one) => areAlike(one, word)) ? 0.6 + predicate : 0;
}

/** Words of one stem; but what is closing is not closed yet. */
function areAlike(one: string, other: string): boolean {
  return stem(one) === stem(other) && !(isGoingOn(one) && isDone(other)) && !(isDone(one) && isGoingOn(other));
}

/** Said of what changes; what is running or sounding does not. */
const isGoingOn = (word: string): boolean => word.endsWith('ing') && !/^(?:runn|operat|work|burn|sound|ring|flash)ing$/.test(word);
const isDone = (word: string): boolean => /ed$|^(?:open|shut|out)$/.test(word);

function matchNoun(one: Known, words: readonly Word[]): Match | undefined {
  const strong = words.filter(({ word }) => !weak.has(word));
  const fits = words.map(({ word }) => fit(one, word));
  const hit = words.filter((_, index) => (fits[index] as number) > 0);
  if (hit.every(({ word }) => weak.has(word)) && strong.length > 0) return undefined;
  if (hit.length === 0) return undefined;
  const score = fits.reduce((sum, value, index) => sum + value * (weak.has((words[index] as Word).word) ? 0.4 : 1), 0);
  const of = words.reduce((sum, { word }) => sum + (weak.has(word) ? 0.4 : 1), 0);
  return { term: one.term, score: score / of - 0.1 * unsaid(one, words), denied: false, tokens: hit.map(({ token }) => token) };
}

/** Share of the name's words that the prose does not say. */
function unsaid({ name, short, term }: Known, words: readonly Word[]): number {
  const said = new Set(words.flatMap(({ word }) => [stem(word), ordinals.get(word) ?? '']));
  // A state is often called by its own name alone.
  const predicates = new Set(name.filter(isPredicate).map(stem));
  const counted = term.kind === 'state' ? short.slice(-1) : short.filter((word) => !predicates.has(word));
  return counted.filter((word) => !said.has(word)).length / Math.max(1, counted.length);
}

/** A clause that says something is so: words that name the thing, and words that say it of it. @param underWay what the clause says is going on: "is closing" */
function matchTruth(one: Known, words: readonly Word[], underWay: string | undefined): Match | undefined {
  let sum = 0;
  let named = 0;
  let denied = false;
  let supposed: string | undefined;
  let said = false;
  const hit: Token[] = [];
  for (const { word, token } of words) {
    const own = fit(one, word);
    const against = own === 0 ? contraryIn(one, word) : undefined;
    const leaning = tendency(word);
    if (own > 0) {
      sum += own;
      if (!weak.has(word)) named += 1;
      if (own >= 0.9 && isPredicate(word) && stem(word) === one.stems.at(-1)) said = true;
    } else if (against && !said) {
      sum += against.score;
      denied = true;
      supposed = `what is not ${against.word} is ${word}`;
    } else if (leaning !== 0 && one.term.kind === 'truth') {
      sum += 0.65;
      denied = leaning < 0;
    } else if (leaning !== 0) sum += 0.25;
    else continue;
    hit.push(token);
  }
  if (named === 0 || (one.term.kind === 'state' && !ownName(one, hit))) return undefined;
  // A word that the term's own name says outweighs what another one seems to say.
  if (said) {
    denied = false;
    supposed = undefined;
  }
  const score = sum / words.length - 0.15 * unsaid(one, words) + (isUnderWay(one, underWay) ? 0.3 : 0);
  return { term: one.term, score: Math.min(1, score), denied, tokens: hit, ...(supposed ? { supposed } : {}) };
}

/** "The door is closing" means the state of that very name before what is closed or open. */
function isUnderWay({ term }: Known, underWay: string | undefined): boolean {
  const own = term.kind === 'state' ? wordsOf(term.name.split('.').at(-1) ?? '').join(' ') : '';
  return own === underWay && isGoingOn(own);
}

/** The region alone does not say which of its states. */
function ownName({ term, synonyms }: Known, hit: readonly Token[]): boolean {
  const own = new Set(wordsOf(term.name.split('.').at(-1) ?? '').map(stem));
  return hit.some(({ text }) => own.has(stem(text)) || synonyms.flat().includes(text));
}

function contraryIn({ name, about, term }: Known, word: string): { word: string; score: number } | undefined {
  if (term.kind !== 'truth') return undefined;
  const excludes = (own: string): boolean => areContrary(own, word) && !(isGoingOn(word) && isDone(own));
  const inName = name.find(excludes);
  if (inName) return { word: inName, score: 0.88 };
  const inAbout = [...about].find(excludes);
  return inAbout ? { word: inAbout, score: 0.8 } : undefined;
}
