import { diff3Merge } from 'node-diff3';

/** Lines that both sides changed, each in its own way. */
export interface Clash {
  readonly base: readonly string[];
  readonly mine: readonly string[];
  readonly theirs: readonly string[];
  /** Line of its beginning in my text, from 1. */
  readonly line: number;
}

/** A merged text in pieces, in order: lines that are settled, and clashes. */
export type Piece = { readonly k: 'lines'; readonly lines: readonly string[] } | { readonly k: 'clash'; readonly clash: Clash };

interface Region {
  readonly ok?: string[];
  readonly conflict?: { readonly a: string[]; readonly aIndex: number; readonly o: string[]; readonly b: string[] };
}

/**
 * Merges two texts that were made from one, line by line: what only one side changed is taken, what both changed alike stands once.
 * Source of the method: Khanna, Kunal and Pierce, A Formal Investigation of Diff3 (2007), as the library does it.
 */
export function mergeLines(base: string, mine: string, theirs: string): Piece[] {
  const settled = base === theirs ? mine : base === mine || mine === theirs ? theirs : undefined;
  if (settled !== undefined) return [{ k: 'lines', lines: settled.split('\n') }];
  const regions = diff3Merge(mine.split('\n'), base.split('\n'), theirs.split('\n'), { excludeFalseConflicts: true }) as Region[];
  return regions.map(({ ok, conflict }) =>
    conflict
      ? { k: 'clash', clash: { base: conflict.o, mine: conflict.a, theirs: conflict.b, line: conflict.aIndex + 1 } }
      : { k: 'lines', lines: ok ?? [] },
  );
}

/** The text of pieces, every clash settled by what `settle` says. */
export function settledText(pieces: readonly Piece[], settle: (clash: Clash, index: number) => readonly string[]): string {
  let index = -1;
  return pieces
    .flatMap((piece) => {
      if (piece.k === 'lines') return piece.lines;
      index += 1;
      return settle(piece.clash, index);
    })
    .join('\n');
}

export function clashesOf(pieces: readonly Piece[]): Clash[] {
  return pieces.flatMap((piece) => (piece.k === 'clash' ? [piece.clash] : []));
}
