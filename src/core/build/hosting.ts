import { nameKey } from '@/core/language';
import { hostedPlaces, hostedRoom, type Node, nodesOf, type Plan, type SlotNumber, type Task, type Work } from '@/core/plan';
import type { Experiment, HostTable } from '@/core/simulate';
import { outsideMessage, outsideName } from './partLoop';
import { headOf, type PlannedBuild } from './plannedBuild';

/**
 * An experiment whose controllers run elsewhere: their tasks are done by hosts, all else is as before.
 * @throws Error when the loop of the experiment is not the one of the builds
 */
export function hostedExperiment(experiment: Experiment, builds: readonly PlannedBuild[]): Experiment {
  let { plan } = experiment;
  const hosts = builds.map((build, host) => {
    const { tasks, table } = hosted(plan, build, host);
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

/** What in a loop answers to what in a build. */
class Matching {
  private readonly slots: ReadonlyMap<string, SlotNumber>;
  private readonly keys: readonly string[];
  private readonly inputs: ReadonlyMap<SlotNumber, Node>;
  private readonly draws: ReadonlyMap<SlotNumber, SlotNumber>;

  constructor(
    private readonly plan: Plan,
    private readonly build: PlannedBuild,
  ) {
    this.slots = new Map(slotKeys(plan).map((key, slot) => [key, slot] as const));
    this.keys = slotKeys(build.plan);
    this.inputs = this.matchInputs();
    this.draws = this.matchDraws();
  }

  private matchInputs(): ReadonlyMap<SlotNumber, Node> {
    const { plan, build } = this;
    return new Map(
      build.inputs.map(({ name, component, port }) => {
        const input = build.plan.inputs.find((one) => nameKey(one.name) === nameKey(name));
        const face = plan.faces.find((one) => nameKey(one.component) === nameKey(component));
        const source = face?.inputs.find((one) => nameKey(one.name) === nameKey(port));
        if (!input || !source) throw new Error(`the loop has no input ${component}.${port}, which the build has`);
        return [input.slot, source.value] as const;
      }),
    );
  }

  /** Streams are made in the order in which they are met in the components. */
  private matchDraws(): ReadonlyMap<SlotNumber, SlotNumber> {
    const { plan, build } = this;
    const heads = new Set(build.components.map(nameKey));
    const tasks = plan.tasks.filter((task) => heads.has(headOf(task.component)));
    const drawn = new Set(
      nodesOf({ ...plan, tasks, states: [], assignments: [], functions: [] }).flatMap((node) => (node.k === 'draw' ? [node.state] : [])),
    );
    const theirs = [...drawn].sort((a, b) => a - b);
    return new Map(build.plan.draws.map((slot, index) => [slot, theirs[index] as SlotNumber]));
  }

  /** The slot of the loop that a slot of a component of the build stands for. */
  slot(own: SlotNumber): SlotNumber {
    const found = this.draws.get(own) ?? this.slots.get(this.keys[own] ?? '');
    if (found === undefined) throw new Error(`the loop has no "${this.build.plan.slots[own]?.name ?? ''}", which the build has`);
    return found;
  }

  /** What a slot of the build is given from the loop. */
  value(own: SlotNumber): Node {
    const input = this.inputs.get(own);
    if (input) return input;
    const slot = this.slot(own);
    return { k: 'slot', type: this.plan.slots[slot]?.type ?? 'LREAL', slot };
  }

  table(): Omit<HostTable, 'build' | 'room'> {
    const { plan, build } = this;
    const known = new Map<string, number>([
      ...plan.regions.flatMap(({ name, states }) => states.map((state) => [`${nameKey(name)} ${nameKey(state.name)}`, state.mark] as const)),
      ...plan.messages.map((message) => [nameKey(message.name), message.mark] as const),
    ]);
    const marks = [
      ...build.plan.regions.flatMap(({ name, states }) =>
        states.map((state) => [state.mark, known.get(`${nameKey(name)} ${nameKey(state.name)}`) ?? -1] as const),
      ),
      ...build.plan.messages.flatMap((message) => {
        const mark = known.get(nameKey(message.name));
        return mark === undefined ? [] : [[message.mark, mark] as const];
      }),
    ];
    const sends = plan.faces.flatMap(({ component, sends: sent }) =>
      sent.flatMap(({ name, to }) => {
        const wanted = nameKey(`${outsideName}.${outsideMessage(component, name)}`);
        const message = build.plan.messages.find((one) => nameKey(one.name) === wanted);
        const heads = new Set(build.components.map(nameKey));
        const outward = to.filter((index) => !heads.has(headOf(plan.messages[index]?.name ?? '')));
        return message ? [{ mark: message.mark, to: outward }] : [];
      }),
    );
    return { begun: build.begun.map((slot) => this.slot(slot)), marks, sends, sites: build.plan.sites };
  }
}

/** Slots by their name, and how many of that name stand before them. */
function slotKeys({ slots }: Plan): string[] {
  const counts = new Map<string, number>();
  return slots.map(({ name }) => {
    const key = nameKey(name);
    const count = (counts.get(key) ?? 0) + 1;
    counts.set(key, count);
    return `${key} ${count}`;
  });
}
