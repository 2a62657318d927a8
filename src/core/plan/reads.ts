import type { Node, SlotNumber, Work } from './types';

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
    case 'apply':
      for (const operand of node.operands) slotsRead(operand, found);
      break;
    case 'select':
      slotsRead(node.condition, found);
      slotsRead(node.yes, found);
      slotsRead(node.no, found);
      break;
    case 'const':
    case 'draw':
    case 'time':
    case 'hit':
      break;
  }
  return found;
}

/** Every slot that a piece of work reads. */
export function slotsReadByWork(work: readonly Work[], found: Set<SlotNumber> = new Set()): Set<SlotNumber> {
  for (const one of work) {
    switch (one.k) {
      case 'set':
        slotsRead(one.value, found);
        break;
      case 'set element':
        slotsRead(one.index, found);
        slotsRead(one.value, found);
        break;
      case 'if':
        slotsRead(one.condition, found);
        slotsReadByWork(one.yes, found);
        slotsReadByWork(one.no, found);
        break;
      case 'loop':
      case 'block':
      case 'settle':
        slotsReadByWork(one.body, found);
        break;
      case 'fail':
      case 'leave':
      case 'mark':
        break;
    }
  }
  return found;
}

/** Every slot that a piece of work writes. */
export function slotsWritten(work: readonly Work[], found: Set<SlotNumber> = new Set()): Set<SlotNumber> {
  for (const one of work) {
    switch (one.k) {
      case 'set':
        found.add(one.slot);
        break;
      case 'set element':
        for (let i = 0; i < one.count; i += 1) found.add(one.base + i);
        break;
      case 'if':
        slotsWritten(one.yes, found);
        slotsWritten(one.no, found);
        break;
      case 'loop':
      case 'block':
      case 'settle':
        slotsWritten(one.body, found);
        break;
      case 'fail':
      case 'leave':
      case 'mark':
        break;
    }
  }
  return found;
}
