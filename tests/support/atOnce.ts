import { countOf, fromCount, ModelAnswer, StatesTold } from '@/core/bench';
import { hostedPlaces } from '@/core/plan';
import { asBenchRun, type BenchOrder, benchOf, type CheckedProject, orderRun } from '@/core/project';
import type { Host, HostTable } from '@/core/simulate';

/** A case of a project as its bench gets it. */
export function benchOrder(project: CheckedProject, name: string): BenchOrder {
  const test = project.cases.find((one) => one.experiment.case === name)!;
  const bench = benchOf(project, test.loop);
  if (typeof bench === 'string') throw new Error(bench);
  return asBenchRun(project, orderRun(project, test), bench, { header: {} as never, library: '' });
}

/** How the clock of a controller stands to that of the bench, and what happens to both (s); at each exchange. */
export interface OwnClock {
  /** It begins so much before the bench. */
  readonly ahead: number;
  /** The exchange begins so late. */
  readonly late: (exchange: number) => number;
  /** The controller has stood still, and is so far behind its clock. */
  readonly behind: (exchange: number) => number;
  readonly took: (exchange: number) => number;
  /** After which share of the exchange the inputs come in. */
  readonly inAfter: (exchange: number) => number;
}

/** A controller without a bus: what a bench would see of one. By itself it answers at once, in a cycle that begins with the exchange. */
export class AtOnce implements Host {
  private values = new Float64Array();
  private before: number[] | undefined;
  private cycles = 0;
  private readonly model: ModelAnswer;
  private readonly states: StatesTold;

  constructor(
    private readonly order: BenchOrder,
    private readonly twist: (outputs: number[], cycle: number) => number[] = (outputs) => outputs,
    private readonly own?: OwnClock,
  ) {
    const { bench } = this.table;
    this.states = new StatesTold(bench!);
    this.model = new ModelAnswer(
      order.build,
      bench!,
      order.pins,
      order.build.plan.parameters.map((slot) => order.build.plan.slots[slot]!.start),
      (told) => this.states.take(told, this.values),
    );
  }

  private get table(): HostTable {
    return this.order.experiment.hosts![0]!;
  }

  /** What it has written by the end of an exchange, and how long that took. */
  private answer(exchange: number, cycleNs: number, read: number[]): { readonly outputs: number[]; readonly took: number } {
    const { model, own } = this;
    const before = this.before ?? read;
    this.before = read;
    const doneBy = (seconds: number): number => {
      const done = Math.floor((1e9 * (seconds + (own?.ahead ?? 0) - (own?.behind(exchange) ?? 0))) / model.cycleNs) + 1;
      this.cycles = Math.max(this.cycles, done);
      return this.cycles;
    };
    const begun = (exchange * cycleNs) / 1e9 + (own?.late(exchange) ?? 0);
    const took = own?.took(exchange) ?? model.cycleNs / 1e9;
    if (!own) return { outputs: model.goOn(doneBy(begun), read), took };
    model.goOn(doneBy(begun + took * own.inAfter(exchange)), before);
    return { outputs: model.goOn(doneBy(begun + took), read), took };
  }

  room(count: number): Float64Array {
    this.values = new Float64Array(count);
    return this.values;
  }

  begin(values: Float64Array): void {
    this.model.setParameters([...values]);
  }

  hit(_: number, hit: number): void {
    const { inputs, outputs, parameters, cycleNs } = this.table.bench!;
    const { values } = this;
    values[hostedPlaces.marked] = 0;
    const from = hostedPlaces.takes;
    const read = inputs.map((channel, index) => fromCount(channel, countOf(channel, values[from + index]!)));
    this.model.setParameters([...values.subarray(from + inputs.length, from + inputs.length + parameters.length)]);
    const { outputs: answered, took } = this.answer(hit, cycleNs, read);
    const written = this.twist(answered, hit).map((value, index) => fromCount(outputs[index]!, countOf(outputs[index]!, value)));
    const gives = from + inputs.length + parameters.length + 2 * (inputs.length + outputs.length) + 1;
    values.set([...written, ...this.states.regions, ...read, ...written, this.own?.late(hit) ?? 0, this.cycles, took], gives);
  }
}
