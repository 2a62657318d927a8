import type { NumericFunction } from './numericFunctions';
import type { Node, SiteNumber, SlotNumber, ValueType, Work } from './types';

/** Nodes and work by their names. `site` is the place in the user's text to which a run-time error is traced back; what cannot fail, or was not written by anybody, has none. */
const nowhere: SiteNumber = 0;

export function constant(type: ValueType, value: number): Node & { k: 'const' } {
  return { k: 'const', type, value };
}

/** The value of a slot. */
export function slotValue(type: ValueType, slot: SlotNumber): Node {
  return { k: 'slot', type, slot };
}

/** Number of the present hit of the task, from 0. */
export const hitNumber: Node = { k: 'hit', type: 'LREAL' };

export function arithmetic(type: ValueType, operator: (Node & { k: 'arithmetic' })['operator'], a: Node, b: Node, site = nowhere): Node {
  return { k: 'arithmetic', type, operator, a, b, site };
}

/** a + b of real numbers. */
export function plus(a: Node, b: Node): Node {
  return arithmetic('LREAL', '+', a, b);
}

/** a − b of real numbers. */
export function minus(a: Node, b: Node): Node {
  return arithmetic('LREAL', '-', a, b);
}

/** −a of a real number. */
export function negative(a: Node): Node {
  return { k: 'negate', type: 'LREAL', a, site: nowhere };
}

/** |a| of a real number. */
export function size(a: Node): Node {
  return call('LREAL', 'ABS', [a]);
}

export function call(type: ValueType, fn: NumericFunction, operands: readonly Node[], site = nowhere): Node {
  return { k: 'call', type, fn, operands, site };
}

export function comparison(operator: (Node & { k: 'compare' })['operator'], a: Node, b: Node): Node {
  return { k: 'compare', type: 'BOOL', operator, a, b };
}

/** TRUE while a slot holds a whole number, such as the number of a state. */
export function holds(slot: SlotNumber, value: number, type: ValueType = 'INT'): Node {
  return comparison('=', slotValue(type, slot), constant(type, value));
}

export function logic(operator: 'AND' | 'OR' | 'XOR', a: Node, b: Node): Node {
  return { k: 'logic', type: 'BOOL', operator, a, b };
}

export function both(a: Node, b: Node): Node {
  return logic('AND', a, b);
}

/** TRUE when one of them is; FALSE when there are none. */
export function any(nodes: readonly Node[]): Node {
  const [first, ...rest] = nodes;
  return rest.reduce<Node>((a, b) => logic('OR', a, b), first ?? constant('BOOL', 0));
}

/** The opposite; of `a = b` it is `a <> b`. */
export function not(a: Node): Node {
  return a.k === 'compare' && a.operator === '=' ? { ...a, operator: '<>' } : { k: 'not', type: 'BOOL', a };
}

/** The value as one of another type that holds all values of its own. */
export function widened(type: ValueType, a: Node): Node {
  return a.type === type ? a : { k: 'convert', type, how: 'widen', a, site: nowhere };
}

/** Time of the present hit, offset + hit × period, in whole nanoseconds (TIME). */
export function taskTime({ periodNs, offsetNs }: { readonly periodNs: number; readonly offsetNs: number }): Node {
  return arithmetic('TIME', '+', arithmetic('TIME', '*', hitNumber, constant('TIME', periodNs)), constant('TIME', offsetNs));
}

export function assign(slot: SlotNumber, value: Node): Work {
  return { k: 'set', slot, value };
}

export function when(condition: Node, yes: readonly Work[], no: readonly Work[] = []): Work {
  return { k: 'if', condition, yes, no };
}
