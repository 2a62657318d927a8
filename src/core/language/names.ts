import { distance as levenshtein } from 'fastest-levenshtein';
import { remember } from '@/core/memory';

/** Identifier of IEC 61131-3: letters, digits and single underscores, not starting with a digit, no two underscores in a row. */
const identifier = /^(?!.*__)[A-Za-z_][A-Za-z0-9_]*$/;

export function isIdentifier(text: string): boolean {
  return text.length <= 200 && identifier.test(text);
}

/** Names are compared without regard to ASCII case; this is the form that is compared. Only ASCII letters are names, whatever else stands in the text. */
export const nameKey = remember((name) => (/[^ -~]/.test(name) ? name.replace(/[A-Z]+/g, (letters) => letters.toLowerCase()) : name.toLowerCase()));

/** Names that one search compares whatever they look like; beyond, among thousands, only those with one slip in them are compared. */
const mostCompared = 200;

/**
 * The known name nearest to a mistyped one, for "did you mean": the one that has parts more between its dots (`plant.station.Idle` for `station.Idle`), or
 * else the one with the fewest slips (Levenshtein distance at most a third of its length, or 2). Of equally near ones the first.
 */
export function nearestName(wanted: string, known: Iterable<string>): string | undefined {
  const names = [...known];
  return withPartsLeftOut(wanted, names) ?? withSlips(wanted, names);
}

/** The only name that is the wanted one once some of its parts are left out. */
function withPartsLeftOut(wanted: string, known: readonly string[]): string | undefined {
  const parts = nameKey(wanted).split('.');
  const end = `.${parts.at(-1)}`;
  const longer = known.filter(
    (name) => name.length > wanted.length && nameKey(name.slice(-end.length)) === end && isWithin(parts, nameKey(name).split('.')),
  );
  const [first] = longer;
  return first !== undefined && longer.every((name) => nameKey(name) === nameKey(first)) ? first : undefined;
}

/** Whether all parts stand among others, in their order. */
function isWithin(parts: readonly string[], others: readonly string[]): boolean {
  let next = 0;
  for (const other of others) if (other === parts[next]) next += 1;
  return next === parts.length;
}

function withSlips(wanted: string, known: readonly string[]): string | undefined {
  const key = nameKey(wanted);
  let best: string | undefined;
  let bestDistance = Math.max(2, Math.floor(key.length / 3)) + 1;
  let compared = 0;
  for (const name of known) {
    if (Math.abs(name.length - wanted.length) >= bestDistance) continue;
    compared += 1;
    if (compared > mostCompared && !differsInOnePlace(name, key)) continue;
    const distance = levenshtein(key, nameKey(name));
    if (distance < bestDistance) {
      best = name;
      bestDistance = distance;
    }
  }
  return best;
}

/** Whether all but two letters in a row of the longer one stand at the beginning or the end of both: one letter too many, missing, wrong, or two exchanged. */
function differsInOnePlace(name: string, key: string): boolean {
  const [shorter, longer] = [Math.min(name.length, key.length), Math.max(name.length, key.length)];
  let before = 0;
  while (before < shorter && sameLetter(name, before, key, before)) before += 1;
  let after = 0;
  while (after < shorter - before && sameLetter(name, name.length - 1 - after, key, key.length - 1 - after)) after += 1;
  return before + after >= longer - 2;
}

/** ASCII letters apart by case differ in the bit of 32 alone; that other characters may do so too matters little where candidates are chosen. */
function sameLetter(a: string, i: number, b: string, j: number): boolean {
  return (a.charCodeAt(i) | 32) === (b.charCodeAt(j) | 32);
}
