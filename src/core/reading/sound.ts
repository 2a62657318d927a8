import { compileAlone, judge, namesInSentence, parseSentence } from '@/core/criteria';
import { Catalogue } from '@/core/loop';
import type { Column, Trace } from '@/core/trace';
import { conversion, isCelsius } from '@/core/units';
import { empty } from './prose/lexicon';
import { type Quantity, type Token, written } from './prose/tokens';
import type { ReadWord, Remark, Term } from './types';

/** A number of a sentence with its unit; times are in seconds. */
interface Literal {
  readonly value: number;
  readonly unit: string;
}

/** Words that turn a meaning round, and the one of each comparison. A reading that has no place for one of them may say the contrary. */
const turning =
  /^(?:not|never|no|cannot|neither|nor|none|without|only|than|except|instead|(?:end|cease|terminate|finish|prevent|prohibit|inhibit|avoid|refuse|suppress|disallow|block|exclude)(?:s|d|es|ed|ing)?|forbid(?:s|den|ding)?|banned)$/;

/**
 * Why a reading must not be offered, though it fits the rules; nothing for a sound one. A reading that leaves out a number, a time, a negation or a word that stands for a figure ("promptly"),
 * speaks of fixed values alone, or holds or fails whatever happens would prove nothing, or the contrary of what is wanted.
 */
export function unsound(
  sentence: string,
  tokens: readonly Token[],
  words: readonly ReadWord[],
  terms: ReadonlyMap<string, Term>,
  open: readonly Remark[],
): string | undefined {
  const quantity = unplacedQuantity(sentence, tokens);
  if (quantity) return `${written(quantity).text} has no place in it`;
  const isPlaced = (token: { readonly from: number; readonly to: number }): boolean =>
    words.some((word) => word.from <= token.from && token.to <= word.to);
  const turned = tokens.find((token) => turning.test(token.text) && !isPlaced(token));
  if (turned) return `"${turned.text}" has no place in it`;
  // "… on together or not at all" says what the others may do; a sentence of the first half alone says something else.
  if (tokens.some(({ text }, index) => text === 'or' && /^(?:not|neither|none)$/.test(tokens[index + 1]?.text ?? '')))
    return '"or not" has no place in it';
  const beside = wordBesideNumber(tokens, isPlaced);
  if (beside) return `"${beside.text}" has no place in it`;
  const passedOver = tokens.find((token) => open.some((one) => one.from <= token.from && token.to <= one.to) && !isPlaced(token));
  if (passedOver) return `"${passedOver.text}" has no place in it`;
  return fixedAlone(sentence, terms) ?? emptySaying(sentence, terms);
}

/** A word beside a number that says how it is meant: "has exceeded 70 bar", "70 K above the other". */
function wordBesideNumber(tokens: readonly Token[], isPlaced: (token: Token) => boolean): Token | undefined {
  const inOrder = [...tokens].sort((a, b) => a.from - b.from);
  const tells = ({ kind, text }: Token): boolean =>
    kind === 'word' && !empty.has(text) && !/^(?:over|under|above|below|than|and|or|plus|minus)$/.test(text);
  return inOrder.find((token, index) => {
    const isBefore = inOrder[index + 1]?.kind === 'quantity' && tells(token);
    const isBehind = inOrder[index - 1]?.kind === 'quantity' && /^(?:above|below|over|under|higher|lower|hotter|colder)$/.test(token.text);
    return (isBefore || isBehind) && !isPlaced(token);
  });
}

function unplacedQuantity(sentence: string, tokens: readonly Token[]): Quantity | undefined {
  const left = literalsOf(sentence);
  for (const { quantity } of tokens) {
    if (!quantity) continue;
    const at = left.findIndex((literal) => isSame(quantity, literal));
    if (at < 0) return quantity;
    left.splice(at, 1);
  }
  return undefined;
}

function literalsOf(sentence: string): Literal[] {
  const found: Literal[] = [];
  const visit = (part: unknown, key: string): void => {
    if (typeof part === 'number' && (key === 'seconds' || key === 'lasting' || key === 'earliest')) found.push({ value: part, unit: 's' });
    if (typeof part !== 'object' || part === null) return;
    const { kind, value, unit, nanoseconds } = part as { kind?: string; value?: number; unit?: string; nanoseconds?: number };
    if (kind === 'number') found.push({ value: value ?? 0, unit: unit ?? '' });
    else if (kind === 'time') found.push({ value: (nanoseconds ?? 0) / 1e9, unit: 's' });
    else for (const [name, inner] of Object.entries(part)) if (name !== 'span') visit(inner, name);
  };
  visit(parseSentence(sentence).sentence, '');
  return found;
}

/** The sign of a number may stand before it in a sentence; a number without a unit takes that of its signal. */
function isSame(of: Quantity, { value, unit }: Literal): boolean {
  // "4 °C per minute" stands in a sentence as 4 K/min.
  const perTime = unit.replace(/\/(?:s|min|h)$/, '');
  const isDifference = (of.unit === 'K' && isCelsius(unit)) || (isCelsius(of.unit) && perTime === 'K');
  const isAlike = of.unit === '' || of.unit === unit || of.unit === perTime || isDifference;
  const factor = isAlike ? 1 : conversion(of.unit, unit);
  return factor !== undefined && Math.abs(Math.abs(of.value) * factor - Math.abs(value)) <= 1e-9 * Math.max(1, Math.abs(value));
}

/** What must hold, or one of its comparisons, has nothing in it that a run could change. */
function fixedAlone(sentence: string, terms: ReadonlyMap<string, Term>): string | undefined {
  const parsed = parseSentence(sentence).sentence;
  if (!parsed || !('holds' in parsed)) return undefined;
  const visit = (part: unknown): string | undefined => {
    if (typeof part !== 'object' || part === null) return undefined;
    const { kind } = part as { kind?: string };
    const names = namesIn(part);
    const isComparison = kind === 'between' || kind === 'near' || (kind === 'binary' && /^[<>=]/.test((part as { operator: string }).operator));
    if ((isComparison || part === parsed.holds) && names.every((name) => terms.get(name)?.fixed)) return names[0] ?? 'nothing';
    return Object.values(part).reduce<string | undefined>((known, inner) => known ?? visit(inner), undefined);
  };
  const name = visit(parsed);
  return name === undefined ? undefined : `it speaks of ${name} alone, which no run changes`;
}

function namesIn(part: unknown): string[] {
  if (typeof part !== 'object' || part === null) return [];
  const { kind, path } = part as { kind?: string; path?: readonly string[] };
  return kind === 'name' ? [(path ?? []).join('.')] : Object.values(part).flatMap(namesIn);
}

const mostTraces = 300;

/** Holds or fails whatever happens: shown on invented traces, in which each signal goes about the limits of the sentence. */
function emptySaying(sentence: string, terms: ReadonlyMap<string, Term>): string | undefined {
  const used = [...new Set(namesInSentence(sentence).map((name) => name.path.join('.')))].flatMap((name) => terms.get(name) ?? []);
  const catalogue = new Catalogue();
  for (const [slot, { name, kind, unit }] of used.entries())
    catalogue.add({ name, slot, type: kind === 'quantity' ? 'LREAL' : kind === 'whole' ? 'INT' : 'BOOL', unit, role: 'output', about: '' });
  const { criterion } = compileAlone(sentence, catalogue);
  if (!criterion || used.length === 0) return undefined;
  // A few rows hold no ten events; a limit on how often something happens is never empty.
  if (criterion.pattern.k === 'measure' && criterion.pattern.measure.k === 'count') return undefined;
  const random = generator();
  const literals = literalsOf(sentence);
  const seen = { kept: false, broken: false };
  for (let count = 0; count < mostTraces && !(seen.kept && seen.broken); count += 1) {
    const trace = invented(used, literals, random);
    const { obligations } = judge(criterion, { trace, column: (slot) => trace.columns[slot], constant: () => Number.NaN });
    for (const { outcome } of obligations) {
      if (outcome === 'broken') seen.broken = true;
      else seen.kept = true;
    }
  }
  if (seen.kept && !seen.broken) return 'it is always met, whatever happens';
  if (seen.broken && !seen.kept) return 'it can never be met';
  return seen.kept ? undefined : 'it is never owed, whatever happens';
}

/** A held trace of a few rows over a time in which every deadline of the sentence can pass. */
function invented(used: readonly Term[], literals: readonly Literal[], random: () => number): Trace {
  const longest = Math.max(1, ...literals.flatMap(({ value, unit }) => (unit === '' ? [] : (conversion(unit, 's') ?? 0) * value)));
  const rows = 2 + Math.floor(random() * 7);
  const end = longest * (1.5 + 3 * random());
  const time = Float64Array.from({ length: rows + 1 }, (_, row) => (row === 0 ? 0 : row === rows ? end : random() * end)).sort();
  const columns = used.map(({ name, kind, unit }, slot): Column => {
    const values = kind === 'quantity' || kind === 'whole' ? levelsOf(literals, unit, kind === 'whole') : [0, 1];
    const pick = (): number => values[Math.floor(random() * values.length)] ?? 0;
    // Some signals stand still, so that what must last can.
    const still = random() < 0.5 ? pick() : undefined;
    const type = kind === 'quantity' ? 'LREAL' : kind === 'whole' ? 'INT' : 'BOOL';
    return { name, slot, base: 0, between: 'held', type, unit, data: time.map(() => still ?? pick()) };
  });
  return { bases: [time], columns, marks: { time: new Float64Array(), mark: new Int32Array(), entered: new Uint8Array() }, from: 0, until: end };
}

/** Values below, at and above each limit of a sentence in the signal's unit, and far from all of them. */
function levelsOf(literals: readonly Literal[], unit: string, isWhole: boolean): number[] {
  const limits = literals.flatMap((literal) => {
    const isAlike = literal.unit === '' || literal.unit === unit || (literal.unit === 'K' && isCelsius(unit));
    const factor = isAlike ? 1 : conversion(literal.unit, unit);
    return factor === undefined ? [] : [literal.value * factor];
  });
  const far = 10 * Math.max(1, ...limits.map(Math.abs));
  const near = limits.flatMap((limit) => [limit - 0.6 * Math.max(1, Math.abs(limit)), limit, limit + 0.6 * Math.max(1, Math.abs(limit))]);
  const all = [0, far, -far, ...near];
  return isWhole ? all.map(Math.round) : all;
}

/** Reproducible numbers (mulberry32), so that a reading is the same wherever it is made. */
function generator(): () => number {
  let state = 1;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
