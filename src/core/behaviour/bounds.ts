import type { Limited, Node } from '@/core/plan';

/** Bounds that a formula's outermost LIMIT, MIN or MAX sets to its value, where they are plain numbers. */
export function boundsOf(node: Node): Omit<Limited, 'slot'> | undefined {
  const outer = extreme(node);
  if (!outer) return undefined;
  const inner = extreme(outer.other);
  const both = [outer, ...(inner && inner.fn !== outer.fn ? [inner] : [])];
  return {
    inside: (both.at(-1) ?? outer).other,
    low: both.find((one) => one.fn === 'MAX')?.bound ?? Number.NEGATIVE_INFINITY,
    high: both.find((one) => one.fn === 'MIN')?.bound ?? Number.POSITIVE_INFINITY,
  };
}

function extreme(node: Node): { readonly fn: 'MIN' | 'MAX'; readonly bound: number; readonly other: Node } | undefined {
  if (node.k !== 'call' || (node.fn !== 'MIN' && node.fn !== 'MAX')) return undefined;
  const [a, b] = node.operands;
  if (a?.k === 'const' && b) return { fn: node.fn, bound: a.value, other: b };
  if (b?.k === 'const' && a) return { fn: node.fn, bound: b.value, other: a };
  return undefined;
}
