import { type Node, plus, size } from '@/core/plan';

/**
 * By what the rounding of a quantity is measured: the sum of the sizes of the numbers that are added and subtracted in it. None where a single subtraction is all there is, since the sign of that is exact,
 * and none for anything but sums.
 */
export function sizeOf(quantity: Node): Node | undefined {
  const parts = partsOf(quantity);
  return parts && parts.length > 2 ? parts.map(size).reduce(plus) : undefined;
}

function partsOf(node: Node): Node[] | undefined {
  switch (node.k) {
    case 'const':
      return node.value === 0 ? [] : [node];
    case 'slot':
      return [node];
    case 'negate':
      return partsOf(node.a);
    case 'convert':
      return node.how === 'widen' ? partsOf(node.a) : undefined;
    case 'arithmetic':
      if (node.operator === '+' || node.operator === '-') return joined([node.a, node.b]);
      // A whole quantity in another scale.
      return node.operator === '/' && node.b.k === 'const' ? partsOf(node.a)?.map((a) => ({ ...node, a })) : undefined;
    case 'call':
      return node.fn === 'ABS' || node.fn === 'MIN' || node.fn === 'MAX' ? joined(node.operands) : undefined;
    case 'element':
    case 'time':
    case 'hit':
    case 'not':
    case 'compare':
    case 'logic':
    case 'apply':
    case 'draw':
    case 'select':
    case 'check':
      return undefined;
  }
}

function joined(nodes: readonly Node[]): Node[] | undefined {
  const parts = nodes.map(partsOf);
  return parts.every((one) => one !== undefined) ? parts.flat() : undefined;
}
