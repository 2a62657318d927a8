import type { Node, Plan, SlotNumber, Work } from './types';

/** The nodes a node is computed from. */
export function operandsOf(node: Node): readonly Node[] {
  switch (node.k) {
    case 'const':
    case 'slot':
    case 'time':
    case 'hit':
    case 'draw':
      return [];
    case 'element':
      return [node.index];
    case 'negate':
    case 'not':
    case 'convert':
    case 'check':
      return [node.a];
    case 'arithmetic':
    case 'compare':
    case 'logic':
      return [node.a, node.b];
    case 'call':
    case 'apply':
      return node.operands;
    case 'select':
      return [node.condition, node.yes, node.no];
  }
}

/** Every node of a plan, in any order. */
export function nodesOf(plan: Plan): Node[] {
  return nodesIn([plan.states, plan.delays ?? [], plan.assignments, plan.tasks.map((task) => task.work), plan.functions.map((one) => one.work)]);
}

/** The value depends on nothing that changes in a run. */
export function isConstant(node: Node): boolean {
  return !nodesIn(node).some(({ k }) => k === 'slot' || k === 'element' || k === 'time' || k === 'hit' || k === 'draw');
}

function nodesIn(whole: unknown): Node[] {
  const found: Node[] = [];
  const visit = (value: unknown): void => {
    if (Array.isArray(value)) for (const one of value) visit(one);
    else if (typeof value === 'object' && value !== null) {
      if ('k' in value) found.push(value as Node);
      for (const one of Object.values(value)) visit(one);
    }
  };
  visit(whole);
  return found;
}

/** The arrays that a plan's work reads or writes, each once. */
export function arraysOf(plan: Plan): { base: SlotNumber; count: number }[] {
  const found = new Map<SlotNumber, { base: SlotNumber; count: number }>();
  for (const node of nodesOf(plan) as readonly (Node | Work)[]) if (node.k === 'element' || node.k === 'set element') found.set(node.base, node);
  return [...found.values()];
}
