import type { Plan, Work } from './types';

export type Decision = Work & { readonly k: 'if' };

/** Every decision in the sampled work of a plan, in order of evaluation; its place in the list is its number. */
export function decisionsOf(plan: Plan): Decision[] {
  return plan.tasks.flatMap((task) => decisionsIn(task.work));
}

function decisionsIn(work: readonly Work[]): Decision[] {
  return work.flatMap((one) => {
    if (one.k === 'if') return [one, ...decisionsIn(one.yes), ...decisionsIn(one.no)];
    return one.k === 'loop' || one.k === 'block' || one.k === 'settle' ? decisionsIn(one.body) : [];
  });
}
