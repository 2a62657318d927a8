import { stringify } from 'yaml';
import { fileNameOf, type SourceFile } from '@/core/documents';
import type { RawBench } from '@/core/shapes';

/** A wiring sheet as a document of the project. */
export function benchDocument(raw: RawBench, path = `benches/${fileNameOf(raw.bench)}.yaml`): SourceFile {
  return { path, text: stringify(raw, { lineWidth: 0 }) };
}
