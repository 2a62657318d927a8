import { fileNameOf, type SourceFile } from '@/core/documents';
import { nameKey } from '@/core/language';
import type { RawCase } from '@/core/shapes';
import { changeDocument } from '@/core/yaml';

/** Where it says what a derived case is there for. */
export interface Made {
  /** Goals, in words. */
  readonly for: readonly string[];
  readonly seed: number;
}

/** Goals that the text beside a case names at most. */
const mostNamed = 12;

/**
 * The document of a derived case.
 * @param taken paths that are taken
 */
export function derivedDocument(raw: RawCase, made: Made, taken: readonly string[]): SourceFile {
  const names = new Set(taken.map(nameKey));
  const stem = `cases/derived-${fileNameOf(raw.case).replace(/^derived-/, '')}`;
  let path = `${stem}.yaml`;
  for (let count = 2; names.has(nameKey(path)); count += 1) path = `${stem}-${count}.yaml`;
  const more = made.for.length > mostNamed ? [`and ${made.for.length - mostNamed} more`] : [];
  const { case: name, loop, ...rest } = raw;
  const entries: readonly (readonly [string, unknown])[] = [
    ['case', name],
    ['loop', loop],
    ['made', { for: [...made.for.slice(0, mostNamed), ...more], by: 'search', seed: made.seed }],
    ...Object.entries(rest),
  ];
  const text = changeDocument(
    '',
    entries.filter(([, value]) => value !== undefined).map(([key, value]) => ({ path: [key], value })),
  );
  return { path, text: text ?? '' };
}
