import type { SourceFile } from '@/core/documents';
import { type Clash, clashesOf, mergeLines, settledText } from './lines';

/** A document that two sides changed so that nobody but a person can say what holds. */
export interface DocumentClash {
  readonly path: string;
  /** The lines that clash; none where one side took the document away that the other changed. */
  readonly clashes: readonly Clash[];
}

export interface MergedDocuments {
  /** All documents of the merge; of a clashing one mine. */
  readonly files: readonly SourceFile[];
  readonly clashes: readonly DocumentClash[];
}

/**
 * Merges two trees of documents that were made from one: by document, and within a document by line.
 * A document that one side took away and the other left alone is gone.
 */
export function mergeDocuments(base: readonly SourceFile[], mine: readonly SourceFile[], theirs: readonly SourceFile[]): MergedDocuments {
  const [from, ours, others] = [textsOf(base), textsOf(mine), textsOf(theirs)];
  const files: SourceFile[] = [];
  const clashes: DocumentClash[] = [];
  for (const path of [...new Set([...ours.keys(), ...others.keys()])].sort()) {
    const [before, own, other] = [from.get(path), ours.get(path), others.get(path)];
    const put = (text: string | undefined): void => {
      if (text !== undefined) files.push({ path, text });
    };
    if (own === other || other === before) put(own);
    else if (own === before) put(other);
    else if (own === undefined || other === undefined) {
      clashes.push({ path, clashes: [] });
      put(own);
    } else {
      const pieces = mergeLines(before ?? '', own, other);
      const found = clashesOf(pieces);
      if (found.length > 0) clashes.push({ path, clashes: found });
      put(settledText(pieces, (clash) => clash.mine));
    }
  }
  return { files, clashes };
}

function textsOf(files: readonly SourceFile[]): Map<string, string> {
  return new Map(files.map(({ path, text }) => [path, text]));
}
