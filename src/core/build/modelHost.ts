import { compileProgram, type MarkSink, nobody, RunFault } from '@/core/emit/js';
import { hostedPlaces, mostMarks, mostSent } from '@/core/plan';
import type { Host } from '@/core/simulate';
import type { PlannedBuild } from './plannedBuild';

/** What may be otherwise in a host than in the build it stands for: changes the values that a task gives back. */
export type Twist = (task: number, gives: Float64Array) => void;

/** The build as the model has it, done by the emitted JavaScript of its plan: what compiled code is held against. */
export class ModelHost implements Host {
  private values = new Float64Array();
  private tenancy: ReturnType<typeof compileProgram>;
  private marked = 0;

  constructor(
    private readonly build: PlannedBuild,
    private readonly twist: Twist = () => undefined,
  ) {
    this.tenancy = compileProgram(build.plan, []);
  }

  room(count: number): Float64Array {
    this.values = new Float64Array(count);
    return this.values;
  }

  begin(values: Float64Array): void {
    const { build } = this;
    this.tenancy = compileProgram(build.plan, []);
    const { slots } = this.tenancy.program;
    for (const [index, slot] of build.begun.entries()) slots[slot] = this.kept(slot, values[index] as number);
  }

  /** A slot of 32 bits keeps no more of what comes from a loop with 64. */
  private kept(slot: number, value: number): number {
    return this.build.plan.slots[slot]?.type === 'REAL' ? Math.fround(value) : value;
  }

  hit(task: number, hit: number): void {
    const { build, values } = this;
    const { program, texts, tenancy } = this.tenancy;
    const { takes, gives } = build.tasks[task] as PlannedBuild['tasks'][number];
    takes.forEach((slot, index) => {
      program.slots[slot] = this.kept(slot, values[hostedPlaces.takes + index] as number);
    });
    this.marked = 0;
    values[hostedPlaces.fault] = 0;
    program.begin(this.sink, texts, tenancy);
    try {
      program.tasks[task]?.(hit);
    } catch (problem) {
      if (!(problem instanceof RunFault)) throw problem;
      values[hostedPlaces.fault] = problem.site + 1;
    } finally {
      program.end();
    }
    values[hostedPlaces.marked] = this.marked;
    this.takeSent(program.slots);
    const from = hostedPlaces.takes + takes.length;
    gives.forEach((slot, index) => {
      values[from + index] = program.slots[slot] as number;
    });
    this.twist(task, values.subarray(from, from + gives.length));
  }

  private takeSent(slots: Float64Array): void {
    const { outbox } = this.build;
    if (!outbox) return;
    const [head, waiting] = [slots[outbox.head] as number, slots[outbox.waiting] as number];
    for (let index = 0; index < waiting && index < mostSent; index += 1)
      this.values[hostedPlaces.sent + index] = slots[outbox.values.base + ((head + index) % outbox.values.count)] as number;
    slots[outbox.head] = 0;
    slots[outbox.waiting] = 0;
  }

  private readonly sink: MarkSink = {
    ...nobody,
    mark: (state, entered) => {
      if (this.marked < mostMarks) this.values[hostedPlaces.marks + this.marked] = 2 * state + Number(entered);
      this.marked += 1;
    },
  };
}
