import { numeric } from '@/core/numeric';
import { calculate } from './calculate';
import type { Node, SlotNumber } from './types';

/** Value of an expression (BOOL as 0 or 1), outside a run; `undefined` where it has none, as where a slot is read that is NaN. Arrays, time and hits have no value here. */
export function evaluate(node: Node, read: (slot: SlotNumber) => number): number | undefined {
  const value = (one: Node): number => evaluate(one, read) ?? Number.NaN;
  const result = ((): number | undefined => {
    switch (node.k) {
      case 'const':
        return node.value;
      case 'slot':
        return read(node.slot);
      case 'negate':
        return -value(node.a);
      case 'not':
        return 1 - value(node.a);
      case 'convert':
        return node.how === 'truncate' ? Math.trunc(value(node.a)) : value(node.a);
      case 'check':
        return value(node.a);
      case 'arithmetic':
        return calculate(node.operator, value(node.a), value(node.b));
      case 'compare':
        return Number(compare(node.operator, value(node.a), value(node.b)));
      case 'logic': {
        const [a, b] = [value(node.a) !== 0, value(node.b) !== 0];
        return Number(node.operator === 'AND' ? a && b : node.operator === 'OR' ? a || b : a !== b);
      }
      case 'select':
        return value(node.condition) !== 0 ? value(node.yes) : value(node.no);
      case 'call':
        return call(node.fn, node.operands.map(value));
      case 'element':
      case 'time':
      case 'hit':
      case 'apply':
      case 'draw':
        return undefined;
    }
  })();
  return result === undefined || Number.isNaN(result) ? undefined : result;
}

function compare(operator: (Node & { readonly k: 'compare' })['operator'], a: number, b: number): boolean {
  switch (operator) {
    case '<':
      return a < b;
    case '<=':
      return a <= b;
    case '>':
      return a > b;
    case '>=':
      return a >= b;
    case '=':
      return a === b;
    case '<>':
      return a !== b;
  }
}

function call(fn: (Node & { readonly k: 'call' })['fn'], [a = Number.NaN, b = Number.NaN]: readonly number[]): number {
  switch (fn) {
    case 'ABS':
      return Math.abs(a);
    case 'SQRT':
      return Math.sqrt(a);
    case 'MIN':
      return Math.min(a, b);
    case 'MAX':
      return Math.max(a, b);
    case 'LN':
      return numeric.ln(a);
    case 'LOG':
      return numeric.log10(a);
    case 'ATAN2':
      return numeric.atan2(a, b);
    case 'EXP':
      return numeric.exp(a);
    case 'SIN':
      return numeric.sin(a);
    case 'COS':
      return numeric.cos(a);
    case 'TAN':
      return numeric.tan(a);
    case 'ASIN':
      return numeric.asin(a);
    case 'ACOS':
      return numeric.acos(a);
    case 'ATAN':
      return numeric.atan(a);
  }
}
