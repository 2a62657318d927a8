import { remember } from '../memory';

/** Identifier of IEC 61131-3: letters, digits and single underscores, not starting with a digit, no two underscores in a row. */
const identifier = /^(?!.*__)[A-Za-z_][A-Za-z0-9_]*$/;

export function isIdentifier(text: string): boolean {
  return text.length <= 200 && identifier.test(text);
}

/** Names are compared without regard to ASCII case; this is the form that is compared. Only ASCII letters are names, whatever else stands in the text. */
export const nameKey = remember((name) => (/[^ -~]/.test(name) ? name.replace(/[A-Z]+/g, (letters) => letters.toLowerCase()) : name.toLowerCase()));

/** The known name nearest to a mistyped one (edit distance at most a third of its length), for "did you mean". */
export function nearestName(wanted: string, known: Iterable<string>): string | undefined {
  const key = nameKey(wanted);
  let best: string | undefined;
  let bestDistance = Math.max(2, Math.floor(key.length / 3)) + 1;
  for (const name of known) {
    if (Math.abs(name.length - wanted.length) >= bestDistance) continue;
    const distance = editDistance(key, nameKey(name));
    if (distance < bestDistance) {
      best = name;
      bestDistance = distance;
    }
  }
  return best;
}

/** Levenshtein distance by rows (Wagner and Fischer 1974). */
function editDistance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i += 1) {
    const next = [i];
    for (let j = 1; j <= b.length; j += 1) {
      const change = (row[j - 1] ?? 0) + (a[i - 1] === b[j - 1] ? 0 : 1);
      next.push(Math.min(change, (row[j] ?? 0) + 1, (next[j - 1] ?? 0) + 1));
    }
    row = next;
  }
  return row[b.length] ?? 0;
}
