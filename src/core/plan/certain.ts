import { numericFunctions } from './numericFunctions';
import { integerRange } from './ranges';
import type { Node } from './types';

/** A divisor that cannot be zero, whatever the signals are: a constant, or what is kept away from zero by one. NaN is not zero. */
export function neverZero(node: Node): boolean {
  if (node.k === 'const') return node.value !== 0;
  // What is rounded to 32 bits may become zero.
  if (node.k !== 'call' || node.type !== 'LREAL') return false;
  const bound = (is: (value: number) => boolean): boolean => node.operands.some((operand) => operand.k === 'const' && is(operand.value));
  return (node.fn === 'MAX' && bound((value) => value > 0)) || (node.fn === 'MIN' && bound((value) => value < 0));
}

const sure = new Set(['+', '-', '*']);

/** An expression that has a value whatever the signals are, and leaves nothing behind: it may be left out where nobody looks at it. */
export function cannotFail(node: Node): boolean {
  if (integerRange[node.type] && node.k !== 'const' && node.k !== 'slot') return false;
  switch (node.k) {
    case 'const':
    case 'slot':
    case 'time':
    case 'hit':
      return true;
    case 'negate':
    case 'not':
      return cannotFail(node.a);
    case 'convert':
      return node.how === 'widen' && cannotFail(node.a);
    case 'logic':
    case 'compare':
      return cannotFail(node.a) && cannotFail(node.b);
    case 'arithmetic':
      return (sure.has(node.operator) || (node.operator === '/' && neverZero(node.b))) && cannotFail(node.a) && cannotFail(node.b);
    case 'call':
      return numericFunctions[node.fn].isTotal && node.operands.every(cannotFail);
    case 'select':
      return cannotFail(node.condition) && cannotFail(node.yes) && cannotFail(node.no);
    case 'element':
    case 'check':
    case 'apply':
    case 'draw':
      return false;
  }
}
