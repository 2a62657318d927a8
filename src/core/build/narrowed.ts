import { type Node, operandsOf, type Plan, type SlotNumber, type Work } from '@/core/plan';

/**
 * A sampled plan in which every LREAL of the user's is a REAL of 32 bits: variables, constants, and each step of the arithmetic. Times and what the plan keeps for itself stay as they are,
 * since they are counted and not measured.
 */
export function narrowed(plan: Plan): Plan {
  const internal = new Set(plan.internal);
  const slots = plan.slots.map((slot, number) => (slot.type === 'LREAL' && !internal.has(number) ? { ...slot, type: 'REAL' as const } : slot));
  const isNarrow = (slot: SlotNumber): boolean => slots[slot]?.type === 'REAL';
  return { ...withNodes(plan, (node) => narrowedNode(node, isNarrow)), slots };
}

/** A sampled plan in which one LREAL is kept in 32 bits, and all arithmetic done in 64. */
export function keptNarrow(plan: Plan, slot: SlotNumber): Plan {
  const rounded = (node: Node): Node => ({ k: 'convert', type: 'REAL', how: 'round', a: node, site: 0 });
  const slots = plan.slots.map((info, number) => (number === slot ? { ...info, type: 'REAL' as const } : info));
  return {
    ...withNodes(
      plan,
      (node) => node,
      (to, value) => (to === slot ? rounded(value) : value),
    ),
    slots,
  };
}

/** @param node what becomes of each expression; @param set of one that is stored, besides */
function withNodes(plan: Plan, node: (node: Node) => Node, set: (slot: SlotNumber, value: Node) => Node = (_, value) => value): Plan {
  const all = (work: readonly Work[]): readonly Work[] => work.map(piece);
  const piece = (one: Work): Work => {
    switch (one.k) {
      case 'set':
        return { ...one, value: set(one.slot, node(one.value)) };
      case 'set element':
        return { ...one, index: node(one.index), value: node(one.value) };
      case 'if':
        return { ...one, condition: node(one.condition), yes: all(one.yes), no: all(one.no) };
      case 'loop':
      case 'block':
      case 'settle':
        return { ...one, body: all(one.body) };
      case 'hosted':
      case 'leave':
      case 'fail':
      case 'mark':
        return one;
    }
  };
  return {
    ...plan,
    tasks: plan.tasks.map((task) => ({ ...task, work: all(task.work) })),
    functions: plan.functions.map((one) => ({ ...one, work: all(one.work) })),
  };
}

/** Arithmetic on times and counts is exact in 64 bits and would not be in 32. */
function isCounted(node: Node): boolean {
  return node.k === 'time' || node.k === 'hit' || node.type === 'TIME' || operandsOf(node).some(isCounted);
}

function narrowedNode(node: Node, isNarrow: (slot: SlotNumber) => boolean): Node {
  const inner = (one: Node): Node => narrowedNode(one, isNarrow);
  const type = node.type === 'LREAL' && !isCounted(node) ? 'REAL' : node.type;
  switch (node.k) {
    case 'const':
      return type === node.type ? node : { ...node, type, value: Math.fround(node.value) };
    case 'slot':
      return node.type === 'LREAL' && isNarrow(node.slot) ? { ...node, type: 'REAL' } : node;
    case 'element':
      return { ...node, index: inner(node.index), type: node.type === 'LREAL' && isNarrow(node.base) ? 'REAL' : node.type };
    case 'time':
    case 'hit':
    case 'draw':
      return node;
    case 'not':
      return { ...node, a: inner(node.a) };
    case 'negate':
    case 'check':
    case 'convert':
      return { ...node, type, a: inner(node.a) } as Node;
    case 'compare':
    case 'logic':
      return { ...node, a: inner(node.a), b: inner(node.b) };
    case 'arithmetic':
      return { ...node, type, a: inner(node.a), b: inner(node.b) };
    case 'call':
    case 'apply':
      return { ...node, type, operands: node.operands.map(inner) };
    case 'select':
      return { ...node, type, condition: inner(node.condition), yes: inner(node.yes), no: inner(node.no) };
  }
}
