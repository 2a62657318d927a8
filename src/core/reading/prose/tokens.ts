import { conversion, findUnit, sameUnit } from '@/core/units';
import { numberPattern, numberValues, type Separators } from './numbers';

/** A word, a number with its unit, or a mark, with its place in the prose. */
export interface Token {
  readonly kind: 'word' | 'quantity' | 'mark';
  /** In small letters; a quantity as `#q`, one of time as `#t`. */
  readonly text: string;
  readonly from: number;
  readonly to: number;
  readonly quantity?: Quantity;
}

/** A number as prose gives it, with the UCUM code of its unit ('' for none). */
export interface Quantity {
  readonly value: number;
  readonly unit: string;
}

const numberWords: ReadonlyMap<string, number> = new Map([
  ['zero', 0],
  ['one', 1],
  ['two', 2],
  ['three', 3],
  ['four', 4],
  ['five', 5],
  ['six', 6],
  ['seven', 7],
  ['eight', 8],
  ['nine', 9],
  ['ten', 10],
  ['twelve', 12],
  ['fifteen', 15],
  ['twenty', 20],
  ['thirty', 30],
  ['sixty', 60],
]);

/** Units in words, longest first where one begins another. */
const unitWords: readonly (readonly [RegExp, string])[] = [
  [/^milli-?seconds?\b|^msec\b/i, 'ms'],
  [/^seconds?\b|^secs?\b/i, 's'],
  [/^minutes?\b|^mins\b/i, 'min'],
  [/^hours?\b|^hrs?\b/i, 'h'],
  [/^per ?cent\b|^pct\b/i, '%'],
  [/^(?:degrees?|deg)\.? (?:celsius|c\b)|^degC\b|^celsius\b/i, '°C'],
  [/^° ?C\b/, '°C'],
  [/^degrees?\b|^°/i, 'deg'],
  [/^kelvin\b/i, 'K'],
  [/^(?:revolutions|turns) per minute\b|^rpm\b|^r\/min\b/i, '/min'],
  [/^millimet(?:er|re)s? per second\b/i, 'mm/s'],
  [/^met(?:er|re)s? per second\b/i, 'm/s'],
  [/^kilomet(?:er|re)s? per hour\b|^kph\b/i, 'km/h'],
  [/^lit(?:er|re)s? per minute\b|^l\/min\b/i, 'L/min'],
  [/^lit(?:er|re)s? per second\b|^l\/s\b/i, 'L/s'],
  [/^millimet(?:er|re)s?\b/i, 'mm'],
  [/^centimet(?:er|re)s?\b/i, 'cm'],
  [/^kilomet(?:er|re)s?\b/i, 'km'],
  [/^met(?:er|re)s?\b/i, 'm'],
  [/^millibars?\b/i, 'mbar'],
  [/^bars?\b/i, 'bar'],
  [/^kilopascals?\b/i, 'kPa'],
  [/^pascals?\b/i, 'Pa'],
  [/^kilovolts?\b/i, 'kV'],
  [/^millivolts?\b/i, 'mV'],
  [/^volts?\b/i, 'V'],
  [/^milliamp(?:ere)?s?\b/i, 'mA'],
  [/^amp(?:ere)?s?\b/i, 'A'],
  [/^kilowatts?\b/i, 'kW'],
  [/^watts?\b/i, 'W'],
  [/^kilonewtons?\b/i, 'kN'],
  [/^newton[- ]?met(?:er|re)s?\b/i, 'N.m'],
  [/^newtons?\b/i, 'N'],
  [/^kilograms?\b/i, 'kg'],
  [/^grams?\b/i, 'g'],
  [/^kilohms?\b/i, 'kOhm'],
  [/^ohms?\b/i, 'Ohm'],
  [/^hertz\b/i, 'Hz'],
  [/^lit(?:er|re)s?\b/i, 'L'],
];

/** A unit's symbol: letters, then products, powers and quotients, but no full stop that ends the sentence. */
const symbol = /^(?:%|[A-Za-zµΩ]+[\d²³]?(?:[./·][A-Za-zµΩ]+[\d²³]?)*)/;

/** Words that are symbols of units by accident. */
const noUnits = new Set(['a', 'at', 'in', 'as', 'and', 'or', 'is', 'to', 'of', 'the', 'on', 'for', 'per', 'it', 'if', 'no', 'times']);

const tokenPattern = String.raw`(?<number>(?<![\w.])${numberPattern})|(?<word>\p{L}(?:(?!(?<=\p{Ll})\p{Lu})[\p{L}\d])*)|(?<mark>±|\+\/-|[^\s])`;

/** Splits prose into tokens; numbers take their unit with them. @param separators how 1,200 and 1.200 are taken */
export function tokensOf(prose: string, separators: Separators = 'comma groups'): Token[] {
  const tokens: Token[] = [];
  const pattern = new RegExp(tokenPattern, 'gu');
  for (let match = pattern.exec(prose); match; match = pattern.exec(prose)) {
    const { number, word, mark } = match.groups as { number?: string; word?: string; mark?: string };
    const from = match.index;
    // A full stop inside a name or an abbreviation ends nothing.
    if (mark === '_' || (mark === '.' && /\S/.test(prose[from + 1] ?? ' '))) continue;
    const spelled = word === undefined ? undefined : numberWords.get(word.toLowerCase());
    if (number !== undefined || spelled !== undefined) {
      const value = spelled ?? numberOf(number as string, separators);
      if (Number.isNaN(value)) {
        // Figures that are written like no number: told as not placed, never guessed at.
        tokens.push({ kind: 'word', text: number as string, from, to: pattern.lastIndex });
        continue;
      }
      const unit = unitAt(prose, pattern.lastIndex);
      // A number in words without a unit is rarely a figure: "one of the pumps".
      if (number === undefined && unit === undefined && spelled !== 0) {
        tokens.push({ kind: 'word', text: (word as string).toLowerCase(), from, to: pattern.lastIndex });
        continue;
      }
      const to = unit?.end ?? pattern.lastIndex;
      pattern.lastIndex = to;
      tokens.push(quantityToken({ value, unit: unit?.code ?? '' }, from, to));
    } else {
      tokens.push({ kind: word === undefined ? 'mark' : 'word', text: (word ?? mark ?? '').toLowerCase(), from, to: pattern.lastIndex });
    }
  }
  return tokens;
}

function numberOf(number: string, separators: Separators): number {
  const values = numberValues(number);
  return (values.find((one) => one.separators === undefined || one.separators === separators) ?? values[0])?.value ?? Number.NaN;
}

function quantityToken(quantity: Quantity, from: number, to: number): Token {
  return { kind: 'quantity', text: isTime(quantity.unit) ? '#t' : '#q', from, to, quantity };
}

/** Whether a unit measures time, so that the number is a deadline or a duration. */
function isTime(unit: string): boolean {
  return unit !== '' && conversion(unit, 's') !== undefined;
}

function unitAt(prose: string, at: number): { code: string; end: number } | undefined {
  const blanks = /^\s*/.exec(prose.slice(at))?.[0].length ?? 0;
  const rest = prose.slice(at + blanks, at + blanks + 60);
  for (const [pattern, code] of unitWords) {
    const found = pattern.exec(rest);
    if (found) return { code, end: at + blanks + found[0].length };
  }
  const found = symbol.exec(rest)?.[0];
  if (!found || noUnits.has(found) || !findUnit(found)) return undefined;
  return { code: found, end: at + blanks + found.length };
}

/** A quantity as a sentence writes it, in the wanted unit where it can be converted. */
export function written({ value, unit }: Quantity, wanted = unit): { readonly text: string; readonly converted: boolean } {
  const factor = unit === wanted ? 1 : conversion(unit, wanted);
  const [shown, shownUnit] = factor === undefined ? [value, unit] : [Number((value * factor).toPrecision(12)), wanted];
  return { text: `${shown}${shownUnit === '' ? '' : ` ${shownUnit}`}`, converted: factor !== undefined && !sameUnit(unit, wanted) && unit !== '' };
}
