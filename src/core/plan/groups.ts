import type { Plan, Task } from './types';

/** Tasks that share period and offset share a time base. */
export interface TaskGroup {
  readonly periodNs: number;
  readonly offsetNs: number;
  /** Indices into `Plan.tasks`, in order of evaluation. */
  readonly tasks: readonly number[];
}

export function groupTasks(plan: Plan): TaskGroup[] {
  const groups = new Map<string, { periodNs: number; offsetNs: number; tasks: number[] }>();
  plan.tasks.forEach(({ periodNs, offsetNs }: Task, index) => {
    const key = `${periodNs}/${offsetNs}`;
    const group = groups.get(key) ?? { periodNs, offsetNs, tasks: [] };
    group.tasks.push(index);
    groups.set(key, group);
  });
  return [...groups.values()];
}
