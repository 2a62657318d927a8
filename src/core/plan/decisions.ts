import { cannotFail } from './certain';
import { eachPiece } from './reads';
import type { ConditionTree, DecisionInfo, Plan, SiteNumber, Work } from './types';

export type Decision = Work & { readonly k: 'if' };

/** A decision while a plan is made: the very work it stands in, and how its place is found once all other places have their numbers. */
export interface WrittenDecision extends Omit<DecisionInfo, 'number' | 'component' | 'site'> {
  readonly work: Work;
  readonly site: () => SiteNumber;
}

/** Every decision in the sampled work of a plan, in order of evaluation; its place in the list is its number. */
export function decisionsOf({ tasks }: Pick<Plan, 'tasks'>): Decision[] {
  return tasks.flatMap((task) => decisionsIn(task.work));
}

function decisionsIn(work: readonly Work[]): Decision[] {
  const found: Decision[] = [];
  eachPiece(work, (one) => {
    if (one.k === 'if') found.push(one);
  });
  return found;
}

/** Decisions by their numbers in the finished tasks; those in work that no task has are left out. */
export function numberedDecisions(plan: Pick<Plan, 'tasks'>, written: readonly WrittenDecision[]): DecisionInfo[] {
  const all = plan.tasks.flatMap(({ component, work }) => decisionsIn(work).map((decision) => ({ component, decision })));
  const places = new Map<Work, { component: string; number: number }>(
    all.map(({ component, decision }, number) => [decision, { component, number }]),
  );
  return written.flatMap(({ work, site, ...info }) => {
    const place = places.get(work);
    return place ? [{ ...info, ...place, site: site() }] : [];
  });
}

/** The conditions of a decision, from left to right. */
export function conditionsIn(tree: ConditionTree): (ConditionTree & { k: 'condition' })[] {
  switch (tree.k) {
    case 'condition':
      return [tree];
    case 'not':
      return conditionsIn(tree.of);
    case 'and':
    case 'or':
    case 'xor':
      return [...conditionsIn(tree.a), ...conditionsIn(tree.b)];
  }
}

/** Conditions of which every combination has a bit of its own: 128 bytes. */
const mostConditions = 10;

/** Where the counters of a decision stand. */
interface Counters {
  /** How often it came out TRUE; the next one how often FALSE. */
  readonly at: number;
  /** One bit for each combination of its conditions, the first one being the lowest bit: set where it has occurred. Nothing where one of them may end the run, or there are too many. */
  readonly combinations?: { readonly at: number; readonly words: number };
}

/** Where the counters of all decisions stand, and how many there are. */
export function countersOf({ decisions }: Pick<Plan, 'decisions'>): { readonly of: readonly Counters[]; readonly size: number } {
  let size = 0;
  const of = decisions.map(({ tree, kind }): Counters => {
    const conditions = conditionsIn(tree);
    const at = size;
    size += 2;
    if (kind === 'gives way' || conditions.length > mostConditions || !conditions.every(({ node }) => cannotFail(node))) return { at };
    const words = Math.ceil(2 ** conditions.length / 32);
    size += words;
    return { at, combinations: { at: at + 2, words } };
  });
  return { of, size };
}
