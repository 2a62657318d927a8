import type { Node, Plan, SlotNumber, Work } from './types';

/** Every node of a plan, in any order. */
export function nodesOf(plan: Plan): Node[] {
  const found: Node[] = [];
  const visit = (value: unknown): void => {
    if (Array.isArray(value)) for (const one of value) visit(one);
    else if (typeof value === 'object' && value !== null) {
      if ('k' in value) found.push(value as Node);
      for (const one of Object.values(value)) visit(one);
    }
  };
  visit([plan.states, plan.assignments, plan.tasks.map((task) => task.work)]);
  return found;
}

/** The arrays that a plan's work reads or writes, each once. */
export function arraysOf(plan: Plan): { base: SlotNumber; count: number }[] {
  const found = new Map<SlotNumber, { base: SlotNumber; count: number }>();
  for (const node of nodesOf(plan) as readonly (Node | Work)[]) if (node.k === 'element' || node.k === 'set element') found.set(node.base, node);
  return [...found.values()];
}
