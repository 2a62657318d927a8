import { parameterSetFile, type SourceFile } from '@/core/documents';
import { authoredValue } from '@/core/formula';
import type { Scalar } from '@/core/shapes';
import { appendToList } from '@/core/yaml';
import type { DeskSignal } from './signals';

/** Parameters that stand at another value than designed. */
export type Tuned = readonly { readonly signal: DeskSignal; readonly value: number }[];

function valueWords(value: Scalar): string {
  return typeof value === 'boolean' ? String(value).toUpperCase() : String(value);
}

/** A tuning found by hand, kept by name. @param desk what it was found on */
export function tuningFile(name: string, desk: string, tuned: Tuned): SourceFile {
  const designed = tuned.map(({ signal }) => `${signal.name} ${valueWords(authoredValue(signal.start, signal))}`).join(', ');
  return parameterSetFile(
    name,
    `Found by hand on ${desk}. Designed: ${designed}.`,
    Object.fromEntries(tuned.map(({ signal, value: number }) => [signal.name, authoredValue(number, signal)])),
  );
}

/** The document of a loop that takes a parameter set from now on; the same text where it does already. */
export function loopWithSet(loop: SourceFile, taken: readonly string[], name: string): SourceFile {
  return taken.includes(name) ? loop : { path: loop.path, text: appendToList(loop.text, 'parameter_sets', [JSON.stringify(name)]) };
}
