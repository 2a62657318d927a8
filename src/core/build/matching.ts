import { nameKey } from '@/core/language';
import { type Node, nodesOf, type Plan, type SlotNumber } from '@/core/plan';
import type { HostTable } from '@/core/simulate';
import { outsideMessage, outsideName } from './partLoop';
import { headOf, type PlannedBuild } from './plannedBuild';

/** What in a loop answers to what in a build. */
export class Matching {
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

  table(): Pick<HostTable, 'begun' | 'marks' | 'sends' | 'sites'> {
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
