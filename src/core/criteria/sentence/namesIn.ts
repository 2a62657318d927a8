import type { Expression } from '@/core/language';
import { parseSentence } from './sentence';

/** The names a sentence speaks of, in the order of the text; none for a text that is no sentence. */
export function namesInSentence(text: string): (Expression & { kind: 'name' })[] {
  const found: (Expression & { kind: 'name' })[] = [];
  const visit = (part: unknown): void => {
    if (typeof part !== 'object' || part === null) return;
    if ((part as Expression).kind === 'name') found.push(part as Expression & { kind: 'name' });
    else for (const inner of Object.values(part)) visit(inner);
  };
  visit(parseSentence(text).sentence);
  return found.sort((a, b) => a.span.from - b.span.from);
}
