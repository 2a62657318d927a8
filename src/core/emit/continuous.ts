import type { Assignment, FreeInput, Node, Plan, SlotNumber } from '../plan';
import { cannotFail, slotsRead, slotsReadByWork } from '../plan';
import { type Surroundings, Temporaries } from './surroundings';

/** What differs between the languages in which the continuous part is written. */
export interface Writer {
  expression(node: Node, around: Surroundings): string;
  /** Before a local value that stays, and before one that changes. */
  readonly constant: string;
  readonly variable: string;
  /** Where a slot lives. */
  slot(slot: SlotNumber): string;
}

/** Value of a free input: base + slope × (t − since). */
export function inputExpression(input: FreeInput, read: (slot: SlotNumber) => string, time: string): string {
  if (input.slope === undefined || input.since === undefined) return read(input.base);
  return `${read(input.base)}+${read(input.slope)}*(${time}-${read(input.since)})`;
}

/**
 * The continuous part of a plan, sorted by what can change while an interval is integrated:
 * `held` slots come from outside (parameters, outputs of tasks), `steady` values follow from those alone, `timed` ones from time as well,
 * and `moving` ones from the states. In emitted code they are h<slot>, s<slot>, w<slot><instant> and y<slot>.
 */
export class Continuous {
  readonly temporaries = new Temporaries();
  private readonly held: SlotNumber[];
  private readonly forDerivatives: ReadonlySet<SlotNumber>;
  private readonly forLog: ReadonlySet<SlotNumber>;
  private readonly states: ReadonlySet<SlotNumber>;
  private readonly inputs: ReadonlyMap<SlotNumber, FreeInput>;
  private readonly steadyOnes: Assignment[] = [];
  private readonly timedOnes: Assignment[] = [];
  private readonly movingOnes: Assignment[] = [];
  private readonly kind = new Map<SlotNumber, 'steady' | 'timed' | 'moving'>();

  /** @param columns slots that are written into the log */
  constructor(
    private readonly plan: Plan,
    private readonly writer: Writer,
    private readonly columns: readonly SlotNumber[] = plan.logged,
  ) {
    this.states = new Set(plan.states.map((state) => state.slot));
    this.inputs = new Map(plan.inputs.map((input) => [input.slot, input]));
    for (const state of this.states) this.kind.set(state, 'moving');
    for (const input of plan.inputs) this.kind.set(input.slot, input.slope === undefined ? 'steady' : 'timed');
    for (const assignment of plan.assignments) this.sort(assignment);
    const read = new Set<SlotNumber>();
    for (const { value } of plan.assignments) slotsRead(value, read);
    for (const { derivative } of plan.states) slotsRead(derivative, read);
    for (const { base, slope, since } of plan.inputs) for (const slot of [base, slope, since]) if (slot !== undefined) read.add(slot);
    const inDerivatives = new Set<SlotNumber>();
    for (const { derivative } of plan.states) slotsRead(derivative, inDerivatives);
    this.forDerivatives = this.sources(inDerivatives);
    this.forLog = this.sources(new Set(columns));
    this.held = [...read].filter((slot) => !this.kind.has(slot));
  }

  private sort(assignment: Assignment): void {
    const kinds = [...slotsRead(assignment.value)].map((slot) => this.kind.get(slot));
    const kind = kinds.includes('moving') ? 'moving' : kinds.includes('timed') || readsTime(assignment.value) ? 'timed' : 'steady';
    this.kind.set(assignment.slot, kind);
    ({ steady: this.steadyOnes, timed: this.timedOnes, moving: this.movingOnes })[kind].push(assignment);
  }

  /** How a slot is read at an instant (a letter that tells the instants of a step apart, or none). */
  read(slot: SlotNumber, instant: string): string {
    switch (this.kind.get(slot)) {
      case 'steady':
        return `s${slot}`;
      case 'timed':
        return `w${slot}${instant}`;
      case 'moving':
        return `y${slot}`;
      case undefined:
        return this.held.includes(slot) ? `h${slot}` : this.writer.slot(slot);
    }
  }

  /** Slots that continuous values and their log take from outside: parameters, outputs of tasks, parts of stimuli. */
  outside(): readonly SlotNumber[] {
    return [...new Set([...this.held, ...this.plan.logged.filter((slot) => !this.kind.has(slot))])];
  }

  /** Free inputs and assignments that follow from what tasks and stimuli write: all others stay as they are within one instant. */
  changeable(): { readonly inputs: readonly FreeInput[]; readonly assignments: readonly Assignment[] } {
    const parameters = new Set(this.plan.parameters);
    const held = this.held.filter((slot) => !parameters.has(slot));
    return { inputs: this.plan.inputs, assignments: this.followers([...this.inputs.keys(), ...held]) };
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
    return this.plan.assignments.filter(({ slot, value }) => {
      const follows = [...slotsRead(value)].some((one) => changing.has(one));
      if (follows) changing.add(slot);
      return follows;
    });
  }

  private around(instant: string, time: string): Surroundings {
    return { slot: (slot) => this.read(slot, instant), time, hit: '0', temporaries: this.temporaries };
  }

  load(): string {
    return this.held.map((slot) => `${this.writer.constant}h${slot}=${this.writer.slot(slot)};`).join('');
  }

  steady(): string {
    const inputs = [...this.inputs.values()]
      .filter((input) => input.slope === undefined)
      .map((input) => `${this.writer.constant}s${input.slot}=h${input.base};`);
    return [
      ...inputs,
      ...this.steadyOnes.map(({ slot, value }) => `${this.writer.constant}s${slot}=${this.writer.expression(value, this.around('', '0'))};`),
    ].join('');
  }

  /** Free inputs and assignments that depend on time alone. */
  timedSlots(): SlotNumber[] {
    return [
      ...[...this.inputs.values()].filter((input) => input.slope !== undefined).map((input) => input.slot),
      ...this.timedOnes.map((one) => one.slot),
    ];
  }

  declareTimed(instant: string): string {
    const names = this.timedSlots().map((slot) => `w${slot}${instant}=0`);
    return names.length > 0 ? `${this.writer.variable}${names.join(',')};` : '';
  }

  timed(instant: string, time: string, how: 'const' | 'assign'): string {
    const head = how === 'const' ? this.writer.constant : '';
    const inputs = [...this.inputs.values()]
      .filter((input) => input.slope !== undefined)
      .map((input) => `${head}w${input.slot}${instant}=${inputExpression(input, (slot) => `h${slot}`, time)};`);
    return [
      ...inputs,
      ...this.timedOnes.map(({ slot, value }) => `${head}w${slot}${instant}=${this.writer.expression(value, this.around(instant, time))};`),
    ].join('');
  }

  carry(from: string, to: string): string {
    return this.timedSlots()
      .map((slot) => `w${slot}${to}=w${slot}${from};`)
      .join('');
  }

  /** Values that follow from the states: those the derivatives need, or those that only the log needs besides. */
  moving(instant: string, time: string, need: 'derivatives' | 'log only'): string {
    return this.movingOnes
      .filter(({ slot }) => (need === 'derivatives' ? this.forDerivatives.has(slot) : this.forLog.has(slot) && !this.forDerivatives.has(slot)))
      .map(({ slot, value }) => `${this.writer.constant}y${slot}=${this.writer.expression(value, this.around(instant, time))};`)
      .join('');
  }

  /** The slots from which values follow, through any number of assignments. */
  private sources(wanted: ReadonlySet<SlotNumber>): ReadonlySet<SlotNumber> {
    const found = new Set(wanted);
    for (const { slot, value } of [...this.plan.assignments].reverse()) if (found.has(slot)) slotsRead(value, found);
    return found;
  }

  derivatives(target: (index: number) => string, instant: string, time: string): string {
    return this.plan.states
      .map(({ derivative }, index) => `${target(index)}=${this.writer.expression(derivative, this.around(instant, time))};`)
      .join('');
  }
}

function readsTime(node: Node): boolean {
  switch (node.k) {
    case 'time':
      return true;
    case 'negate':
    case 'not':
    case 'convert':
    case 'check':
      return readsTime(node.a);
    case 'element':
      return readsTime(node.index);
    case 'arithmetic':
    case 'compare':
    case 'logic':
      return readsTime(node.a) || readsTime(node.b);
    case 'call':
    case 'apply':
      return node.operands.some(readsTime);
    case 'select':
      return readsTime(node.condition) || readsTime(node.yes) || readsTime(node.no);
    default:
      return false;
  }
}
