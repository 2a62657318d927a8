import { nameKey } from '@/core/language';

/** How texts use a name. */
export interface NameUse {
  readonly read: boolean;
  readonly written: boolean;
}

const comments = /\(\*[\s\S]*?(?:\*\)|$)|\/\/[^\n]*/g;
const names = /(?<![\w.])[A-Za-z_]\w*(?:\s*(:=))?/g;

/** Names that formulas and statements speak of, by their key, outside comments. Goes through the texts once, however many names are asked for. */
export function namesUsed(texts: readonly string[]): ReadonlyMap<string, NameUse> {
  const found = new Map<string, NameUse>();
  for (const text of texts) {
    for (const [all, assigned] of text.replace(comments, ' ').matchAll(names)) {
      const key = nameKey(/^\w+/.exec(all)?.[0] ?? '');
      const before = found.get(key);
      found.set(key, { read: before?.read || !assigned, written: before?.written || assigned !== undefined });
    }
  }
  return found;
}
