import { nameKey } from '@/core/language';
import { hostedPlaces, hostedRoom, type Plan, type Task, type Work } from '@/core/plan';
import type { Experiment, HostTable } from '@/core/simulate';
import { Matching } from './matching';
import { headOf, type PlannedBuild } from './plannedBuild';

/**
 * An experiment whose controllers run elsewhere: their tasks are done by hosts, all else is as before. Their numbers come after those of the units.
 * @throws Error when the loop of the experiment is not the one of the builds
 */
export function hostedExperiment(experiment: Experiment, builds: readonly PlannedBuild[]): Experiment {
  let { plan } = experiment;
  const hosts = builds.map((build, host) => {
    const { tasks, table } = hosted(plan, build, (plan.units?.length ?? 0) + host);
    plan = { ...plan, tasks };
    return table;
  });
  return { ...experiment, plan, hosts };
}

function hosted(plan: Plan, build: PlannedBuild, host: number): { readonly tasks: readonly Task[]; readonly table: HostTable } {
  const match = new Matching(plan, build);
  const own = tasksByOccurrence(build.plan);
  let room: number = hostedPlaces.takes;
  const tasks = [...tasksByOccurrence(plan)].map(([key, task]): Task => {
    const number = [...own.keys()].indexOf(key);
    const exchange = build.tasks[number];
    if (!exchange) return task;
    const takes = exchange.takes.map((slot) => match.value(slot));
    const gives = exchange.gives.map((slot) => match.slot(slot));
    const work: Work = { k: 'hosted', host, task: number, takes, gives };
    room = Math.max(room, hostedRoom(work));
    const isHeld = plan.faces.some(({ component, isHeld: held }) => held && nameKey(component) === headOf(task.component));
    const [first] = task.work;
    return { ...task, work: isHeld && first?.k === 'if' ? [{ ...first, yes: [work] }] : [work] };
  });
  return { tasks, table: { build: build.fingerprint, room, ...match.table() } };
}

/** Tasks by their component and how many of that component stand before them. */
function tasksByOccurrence({ tasks }: Plan): ReadonlyMap<string, Task> {
  const counts = new Map<string, number>();
  return new Map(
    tasks.map((task) => {
      const key = nameKey(task.component);
      const count = (counts.get(key) ?? 0) + 1;
      counts.set(key, count);
      return [`${key} ${count}`, task] as const;
    }),
  );
}
