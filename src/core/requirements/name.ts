import { parseSentence } from '@/core/criteria';
import { nameKey, printExpression } from '@/core/language';

const longest = 48;

/** A short name for a criterion, from what its sentence owes; none that is taken. */
export function criterionName(sentence: string, taken: readonly string[]): string {
  const read = parseSentence(sentence).sentence;
  const owed =
    read && 'holds' in read
      ? `${read.k === 'never' ? 'never ' : ''}${printExpression(read.holds)}`
      : read?.k === 'measure'
        ? sentence
        : (read?.k ?? 'criterion');
  const short = owed.length > longest ? `${owed.slice(0, longest - 1).trimEnd()}…` : owed;
  const keys = new Set(taken.map(nameKey));
  let name = short;
  for (let number = 2; keys.has(nameKey(name)); number += 1) name = `${short} (${number})`;
  return name;
}
