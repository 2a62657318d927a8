import { isMap, isSeq, type Node, type Pair, type Scalar } from 'yaml';

export type Path = readonly (string | number)[];

/** Pairs of a mapping by their key: places are asked for one by one, and a mapping may have thousands of keys. */
const pairsOfMaps = new WeakMap<object, Map<string, Pair>>();

export function pairAt(node: Node, step: string | number): Pair | undefined {
  if (!isMap(node)) return undefined;
  const known = pairsOfMaps.get(node) ?? new Map<string, Pair>();
  if (known.size === 0) for (const pair of [...node.items].reverse()) known.set(String((pair.key as Scalar).value), pair);
  pairsOfMaps.set(node, known);
  return known.get(String(step));
}

/** The node at a path, or the deepest one on the way. */
export function nodeAt(root: Node | null, path: Path): Node | null {
  let node = root;
  for (const step of path) {
    const next: unknown = node && isSeq(node) ? node.items[Number(step)] : node ? pairAt(node, step)?.value : undefined;
    if (!next) return node;
    node = next as Node;
  }
  return node;
}

/** The node at exactly this path. */
export function nodeAtPath(root: Node | null, path: Path): Node | undefined {
  const found = path.reduce<Node | null | undefined>(
    (node, step) => (node ? (nodeAt(node, [step]) === node ? undefined : nodeAt(node, [step])) : undefined),
    root,
  );
  return found ?? undefined;
}
