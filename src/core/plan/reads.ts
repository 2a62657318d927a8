import type { Node, SlotNumber } from './types';

/** Every slot an expression reads, in the order met. */
export function slotsRead(node: Node, found: Set<SlotNumber> = new Set()): Set<SlotNumber> {
  switch (node.k) {
    case 'slot':
      found.add(node.slot);
      break;
    case 'element':
      for (let i = 0; i < node.count; i += 1) found.add(node.base + i);
      slotsRead(node.index, found);
      break;
    case 'negate':
    case 'not':
    case 'convert':
    case 'check':
      slotsRead(node.a, found);
      break;
    case 'arithmetic':
    case 'compare':
    case 'logic':
      slotsRead(node.a, found);
      slotsRead(node.b, found);
      break;
    case 'call':
      for (const operand of node.operands) slotsRead(operand, found);
      break;
    case 'select':
      slotsRead(node.condition, found);
      slotsRead(node.yes, found);
      slotsRead(node.no, found);
      break;
    case 'const':
    case 'time':
    case 'hit':
      break;
  }
  return found;
}
