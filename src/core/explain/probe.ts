import { assign, both, constant, holds, type Node, type Plan, type SlotNumber, type TransitionInfo, type Work, when } from '@/core/plan';

/** A plan that also notes, at every hit of a chart, how things stood for one of its transitions. The run itself stays the same. */
export interface Probe {
  readonly plan: Plan;
  /** 1 when the source state was active at some step of the hit. */
  readonly active: SlotNumber;
  /** 1 when the transition was taken in the hit. */
  readonly taken: SlotNumber;
  /** 1 when all clauses were TRUE together. */
  readonly open: SlotNumber;
  /** For each clause, 1 when it was TRUE while the source was active. */
  readonly clauses: readonly SlotNumber[];
}

/**
 * Adds the notes to the chart's own work, before each of its steps, so that a clause is judged on the very values the guard is judged on.
 * @returns undefined when the plan's chart has no such task
 */
export function probe(plan: Plan, transition: TransitionInfo): Probe | undefined {
  const slots = [...plan.slots];
  const note = (name: string): SlotNumber => slots.push({ name: `${transition.chart} ${name}`, type: 'BOOL', unit: '', start: 0 }) - 1;
  const [active, taken, open] = [note('active'), note('taken'), note('open')];
  const clauses = transition.clauses.map((clause) => note(clause.text));
  const notes = [active, taken, open, ...clauses];
  const set = (slot: SlotNumber, value: number): Work => assign(slot, constant('BOOL', value));
  const before = when(transition.active, [
    set(active, 1),
    ...transition.clauses.map(({ node }, index) => when(node, [set(clauses[index] as SlotNumber, 1)])),
    when(transition.clauses.map((clause) => clause.node).reduce(both), [set(open, 1)]),
  ]);
  const { choice, number } = transition;
  const chosen: Node = holds(choice, number);
  const within = (work: readonly Work[]): Work[] =>
    work.map((one): Work => {
      if (one.k === 'settle') return { ...one, body: [before, ...one.body, when(chosen, [set(taken, 1)])] };
      return one.k === 'if' ? { ...one, yes: within(one.yes), no: within(one.no) } : one;
    });
  const task = plan.tasks.findIndex((one) => one.component === transition.chart);
  if (task < 0) return undefined;
  const tasks = plan.tasks.map((one, index) =>
    index === task ? { ...one, work: [...notes.map((slot) => set(slot, 0)), ...within(one.work)], logged: [...one.logged, ...notes] } : one,
  );
  return { plan: { ...plan, slots, tasks }, active, taken, open, clauses };
}
