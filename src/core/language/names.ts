import { remember } from '../memory';

/** Identifier of IEC 61131-3: letters, digits and single underscores, not starting with a digit, no two underscores in a row. */
const identifier = /^(?!.*__)[A-Za-z_][A-Za-z0-9_]*$/;

export function isIdentifier(text: string): boolean {
  return text.length <= 200 && identifier.test(text);
}

/** Names are compared without regard to ASCII case; this is the form that is compared. Only ASCII letters are names, whatever else stands in the text. */
export const nameKey = remember((name) => (/[^ -~]/.test(name) ? name.replace(/[A-Z]+/g, (letters) => letters.toLowerCase()) : name.toLowerCase()));

/** Comparisons that one search may take: among thousands of names the first that come must do. */
const mostCompared = 200;

/** The known name nearest to a mistyped one (edit distance at most a third of its length), for "did you mean". */
export function nearestName(wanted: string, known: Iterable<string>): string | undefined {
  const key = nameKey(wanted);
  let best: string | undefined;
  let bestDistance = Math.max(2, Math.floor(key.length / 3)) + 1;
  let compared = 0;
  for (const name of known) {
    if (Math.abs(name.length - wanted.length) >= bestDistance) continue;
    compared += 1;
    if (compared > mostCompared && !startsAlike(name, key)) continue;
    const distance = editDistance(key, nameKey(name), bestDistance);
    if (distance < bestDistance) {
      best = name;
      bestDistance = distance;
    }
  }
  return best;
}

/** Of many names those are looked at that begin as the mistyped one does. */
function startsAlike(name: string, key: string): boolean {
  return nameKey(name.slice(0, 3)) === key.slice(0, 3);
}

/** Levenshtein distance by rows (Wagner and Fischer 1974); no further than `most` is counted. */
function editDistance(a: string, b: string, most: number): number {
  let row = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i += 1) {
    const next = [i];
    let least = i;
    for (let j = 1; j <= b.length; j += 1) {
      const change = (row[j - 1] as number) + (a[i - 1] === b[j - 1] ? 0 : 1);
      const distance = Math.min(change, (row[j] as number) + 1, (next[j - 1] as number) + 1);
      next.push(distance);
      least = Math.min(least, distance);
    }
    if (least >= most) return most;
    row = next;
  }
  return row[b.length] as number;
}
