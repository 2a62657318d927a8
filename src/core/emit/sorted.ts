import {
  type Assignment,
  cannotFail,
  type FreeInput,
  type Node,
  operandsOf,
  type Plan,
  type SlotNumber,
  slotsRead,
  slotsReadByWork,
} from '@/core/plan';

/** What a continuous value can change with: nothing within an interval, time alone, or the states. */
export type Kind = 'steady' | 'timed' | 'moving';

/**
 * The continuous part of a plan, sorted by what can change while an interval is integrated: `held` slots come from outside (parameters, outputs of tasks), `steady` values follow from those alone,
 * `timed` ones from time as well, and `moving` ones from the states. Worked out once a plan, for all texts that are written of it.
 */
export class Sorted {
  readonly held: readonly SlotNumber[];
  readonly assignments: Readonly<Record<Kind, readonly Assignment[]>>;
  readonly forDerivatives: ReadonlySet<SlotNumber>;
  readonly forLog: ReadonlySet<SlotNumber>;
  private readonly kinds = new Map<SlotNumber, Kind>();
  /** What the value of each assignment reads. */
  private readonly reads: readonly ReadonlySet<SlotNumber>[];

  /** @param columns slots that are written into the log */
  constructor(
    readonly plan: Plan,
    private readonly columns: readonly SlotNumber[] = plan.logged,
  ) {
    for (const { slot } of plan.states) this.kinds.set(slot, 'moving');
    for (const input of plan.inputs) this.kinds.set(input.slot, input.slope === undefined ? 'steady' : 'timed');
    this.reads = plan.assignments.map(({ value }) => slotsRead(value));
    const sorted: Record<Kind, Assignment[]> = { steady: [], timed: [], moving: [] };
    plan.assignments.forEach((assignment, index) => {
      const kind = this.kindOf(assignment.value, this.reads[index] as ReadonlySet<SlotNumber>);
      this.kinds.set(assignment.slot, kind);
      sorted[kind].push(assignment);
    });
    this.assignments = sorted;
    const inDerivatives = new Set<SlotNumber>();
    for (const { derivative } of plan.states) slotsRead(derivative, inDerivatives);
    this.forDerivatives = this.sources(inDerivatives);
    this.forLog = this.sources(columns);
    this.held = this.heldOnes(inDerivatives);
  }

  private kindOf(value: Node, reads: ReadonlySet<SlotNumber>): Kind {
    const kinds = new Set([...reads].map((slot) => this.kinds.get(slot)));
    return kinds.has('moving') ? 'moving' : kinds.has('timed') || readsTime(value) ? 'timed' : 'steady';
  }

  private heldOnes(inDerivatives: ReadonlySet<SlotNumber>): SlotNumber[] {
    const read = new Set<SlotNumber>();
    for (const slots of [...this.reads, inDerivatives]) for (const slot of slots) read.add(slot);
    for (const { base, slope, since } of this.plan.inputs) for (const slot of [base, slope, since]) if (slot !== undefined) read.add(slot);
    return [...read].filter((slot) => !this.kinds.has(slot));
  }

  /** None for what comes from outside. */
  kind(slot: SlotNumber): Kind | undefined {
    return this.kinds.get(slot);
  }

  /** Free inputs that follow a ramp, or those that do not. */
  inputs(kind: 'steady' | 'timed'): readonly FreeInput[] {
    return this.plan.inputs.filter(({ slope }) => (slope === undefined) === (kind === 'steady'));
  }

  /** Slots that continuous values and their log take from outside: parameters, outputs of tasks, parts of stimuli. */
  outside(): readonly SlotNumber[] {
    return [...new Set([...this.held, ...this.plan.logged.filter((slot) => !this.kinds.has(slot))])];
  }

  /** Free inputs and assignments that follow from what tasks and stimuli write: all others stay as they are within one instant. */
  changeable(): { readonly inputs: readonly FreeInput[]; readonly assignments: readonly Assignment[] } {
    const { inputs, parameters } = this.plan;
    const fixed = new Set(parameters);
    const held = this.held.filter((slot) => !fixed.has(slot));
    return { inputs, assignments: this.followers([...inputs.map(({ slot }) => slot), ...held]) };
  }

  /** What changes at an instant when nothing but tasks runs: the slots they may write, the assignments that follow, and which columns of the log may differ. */
  afterTasks(): { readonly sources: readonly SlotNumber[]; readonly assignments: readonly Assignment[]; readonly columns: readonly number[] } {
    const parts = this.plan.inputs.flatMap(({ base, slope, since }) => [base, slope, since]);
    const others = new Set([...this.plan.parameters, ...parts]);
    const sources = this.outside().filter((slot) => !others.has(slot));
    const assignments = this.followers(sources);
    const changing = new Set([...sources, ...assignments.map(({ slot }) => slot)]);
    return { sources, assignments, columns: [...this.columns.keys()].filter((column) => changing.has(this.columns[column] as SlotNumber)) };
  }

  /**
   * Assignments whose values the log, the tasks or further expressions come to, and those that may end a run, which do so at their instant. The others serve derivatives alone,
   * for which every step computes them anew.
   */
  seen(extra: readonly Node[]): ReadonlySet<Assignment> {
    const { plan } = this;
    const wanted = new Set(plan.logged);
    for (const { work } of plan.tasks) slotsReadByWork(work, wanted);
    for (const node of extra) slotsRead(node, wanted);
    for (const { slot, value } of plan.assignments) if (!cannotFail(value)) wanted.add(slot);
    const sources = this.sources(wanted);
    return new Set(plan.assignments.filter(({ slot }) => sources.has(slot)));
  }

  private followers(from: readonly SlotNumber[]): Assignment[] {
    const changing = new Set(from);
    return this.plan.assignments.filter(({ slot }, index) => {
      const follows = [...(this.reads[index] ?? [])].some((one) => changing.has(one));
      if (follows) changing.add(slot);
      return follows;
    });
  }

  /** The slots from which values follow, through any number of assignments. */
  private sources(wanted: Iterable<SlotNumber>): ReadonlySet<SlotNumber> {
    const found = new Set(wanted);
    for (let index = this.reads.length - 1; index >= 0; index -= 1)
      if (found.has(this.plan.assignments[index]?.slot as SlotNumber)) for (const slot of this.reads[index] ?? []) found.add(slot);
    return found;
  }
}

function readsTime(node: Node): boolean {
  return node.k === 'time' || operandsOf(node).some(readsTime);
}
