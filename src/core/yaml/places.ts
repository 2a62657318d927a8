import type { Node } from 'yaml';
import type { Block, Piece } from './blocks';
import { nodeAt, type Path, pairAt } from './nodes';

/** A node with what its places count from. */
export interface Located {
  readonly node: Node | null;
  readonly from: number;
  readonly base: number;
}

/** The value at a path, or the deepest one on the way. */
export function valueAt(root: Block, path: Path): Located {
  let block = root;
  for (const [depth, step] of path.entries()) {
    if (block.kind === 'piece') return within(block, path.slice(depth));
    const next = block.kind === 'mapping' ? block.entries.get(String(step))?.value : block.items[Number(step)];
    if (!next) break;
    block = next;
  }
  return block.kind === 'piece' ? within(block, []) : { node: null, from: block.base, base: block.base };
}

/** Offset of the key at a path, if there is one. */
export function keyOffset(root: Block, path: Path): number | undefined {
  const last = path.at(-1);
  if (last === undefined) return undefined;
  let block = root;
  for (const [depth, step] of path.entries()) {
    if (block.kind === 'piece') {
      const parent = nodeAt(block.node, path.slice(depth, -1));
      const at = parent && (pairAt(parent, last)?.key as Node | undefined)?.range?.[0];
      return at === undefined || at === null ? undefined : block.base + at;
    }
    const entry = block.kind === 'mapping' ? block.entries.get(String(step)) : undefined;
    const next = block.kind === 'list' ? block.items[Number(step)] : entry?.value;
    if (depth === path.length - 1 || !next) return depth === path.length - 1 ? entry?.key : undefined;
    block = next;
  }
  return undefined;
}

function within(piece: Piece, path: Path): Located {
  const node = nodeAt(piece.node, path);
  return { node, from: piece.base + (node?.range?.[0] ?? 0), base: piece.base };
}
