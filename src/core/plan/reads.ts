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

/** Goes through work in the order in which it is written, each piece before what stands inside it. */
export function eachPiece(work: readonly Work[], take: (piece: Work) => void): void {
  for (const one of work) {
    take(one);
    if (one.k === 'if') {
      eachPiece(one.yes, take);
      eachPiece(one.no, take);
    } else if (one.k === 'loop' || one.k === 'block' || one.k === 'settle') eachPiece(one.body, take);
  }
}

/** Every slot that a piece of work reads. */
export function slotsReadByWork(work: readonly Work[], found: Set<SlotNumber> = new Set()): Set<SlotNumber> {
  eachPiece(work, (one) => {
    if (one.k === 'if') slotsRead(one.condition, found);
    if (one.k === 'set element') slotsRead(one.index, found);
    if (one.k === 'hosted') for (const node of one.takes) slotsRead(node, found);
    if (one.k === 'set' || one.k === 'set element') slotsRead(one.value, found);
  });
  return found;
}

/** Every slot that a piece of work writes. */
export function slotsWritten(work: readonly Work[], found: Set<SlotNumber> = new Set()): Set<SlotNumber> {
  eachPiece(work, (one) => {
    if (one.k === 'set') found.add(one.slot);
    if (one.k === 'hosted') for (const slot of one.gives) found.add(slot);
    if (one.k === 'set element') for (let i = 0; i < one.count; i += 1) found.add(one.base + i);
  });
  return found;
}
