/** Words of a sentence that end an expression, in small letters. */
export const keywords: ReadonlySet<string> = new Set([
  'always',
  'never',
  'while',
  'when',
  'within',
  'for',
  'rises',
  'falls',
  'becomes',
  'changes',
  'crosses',
  'enters',
  'leaves',
  'then',
  'until',
  'in',
]);

/** Words that belong to a sentence only where it begins or where a time follows; elsewhere they are names like any other. */
const leading: ReadonlySet<string> = new Set([
  'if',
  'sequence',
  'after',
  'between',
  'start',
  'overshoot',
  'settling',
  'peak',
  'rms',
  'mean',
  'duration',
  'count',
  'longest',
  'rate',
]);

/** Words that say which way a level is crossed; elsewhere they are names like any other. */
export const directions: ReadonlySet<string> = new Set(['upward', 'downward']);

/** Words that may follow a number and are no units. */
export const behindNumbers: ReadonlySet<string> = new Set([...directions, 'after', 'at']);

/** Whether a word of a sentence belongs to its grammar. */
export function isSentenceWord(word: string): boolean {
  return keywords.has(word) || directions.has(word) || leading.has(word);
}
