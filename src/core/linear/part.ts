import { compileProgram, type Program } from '@/core/emit/js';
import { type FreeInput, type Plan, type SlotNumber, slotsRead } from '@/core/plan';
import { type Experiment, simulate } from '@/core/simulate';

/** A value that acts on the continuous part from outside: a free input, or what a sampled component holds between its hits. */
export interface Drive {
  readonly name: string;
  readonly unit: string;
  /** Slot its value is written to, and the one it is read from. */
  readonly slot: SlotNumber;
  readonly shown: SlotNumber;
}

/** A signal of the continuous part. */
export interface Seen {
  readonly name: string;
  readonly unit: string;
  readonly slot: SlotNumber;
}

/** @throws RangeError for a loop with a dead time of continuous values: it has poles without number, and no finite matrix says what it does */
export function refuseDeadTimes(plan: Plan): void {
  const [late] = plan.delays ?? [];
  if (late)
    throw new RangeError(
      `${plan.slots[late.slot]?.name ?? ''} is a dead time, which has poles without number: there is no linear view of this loop. Put a lag of the same length in its place for an estimate`,
    );
}

/**
 * The continuous part of a loop as two functions, dx/dt = f(x, u) and y = g(x, u), at one instant: what is sampled stands still. Both are the plan's own, as every run computes them.
 */
export class ContinuousPart {
  readonly states: readonly Seen[];
  readonly drives: readonly Drive[];
  readonly signals: readonly Seen[];
  /** States and drives at the instant it was made for. */
  readonly x0: Float64Array;
  private readonly program: Program;
  private readonly seconds: number;

  /**
   * @param atSeconds instant of the experiment; 0 for its start
   * @throws RangeError in the words of the run, when it does not get there
   */
  constructor(experiment: Experiment, atSeconds = 0) {
    const { plan } = experiment;
    refuseDeadTimes(plan);
    const reached = simulate({ ...experiment, stopNs: Math.round(atSeconds * 1e9) });
    if (reached.error) throw new RangeError(reached.error.message);
    // Only a method of variable step asks for the right-hand side by itself.
    this.program = compileProgram({ ...plan, solver: { ...plan.solver, method: 'dormand-prince-54' } }, []).program;
    this.program.slots.set(reached.slots);
    for (const input of plan.inputs) this.hold(input);
    this.seconds = atSeconds;
    const seen = (slot: SlotNumber): Seen => ({ name: plan.slots[slot]?.name ?? '', unit: plan.slots[slot]?.unit ?? '', slot });
    const real = (slot: SlotNumber): boolean => plan.slots[slot]?.type === 'LREAL' || plan.slots[slot]?.type === 'REAL';
    this.states = plan.states.map((state) => seen(state.slot));
    const free = plan.inputs.filter((input) => real(input.slot)).map((input) => ({ ...seen(input.slot), slot: input.base, shown: input.slot }));
    const read = new Set<SlotNumber>();
    for (const { value } of plan.assignments) slotsRead(value, read);
    for (const { derivative } of plan.states) slotsRead(derivative, read);
    const held = plan.tasks
      .flatMap((task) => task.logged.filter((slot) => real(slot) && read.has(slot)))
      .map((slot) => ({ ...seen(slot), shown: slot }));
    this.drives = [...free, ...held];
    const inputs = new Set(plan.inputs.map((input) => input.slot));
    this.signals = plan.logged.filter((slot) => real(slot) && !inputs.has(slot)).map(seen);
    this.x0 = Float64Array.from(this.states, (state) => this.program.slots[state.slot] as number);
  }

  /** An input that runs along a ramp or swings is held where it is. */
  private hold({ slot, base, slope }: FreeInput): void {
    const { slots } = this.program;
    slots[base] = slots[slot] as number;
    if (slope !== undefined) slots[slope] = 0;
  }

  /** Present value of a drive. */
  drive(index: number): number {
    return this.program.slots[this.drives[index]?.shown ?? 0] as number;
  }

  /** Sets a drive for all evaluations from here on. */
  setDrive(index: number, value: number): void {
    const drive = this.drives[index];
    if (!drive) return;
    this.program.slots[drive.slot] = value;
    this.program.slots[drive.shown] = value;
  }

  /** dx/dt. */
  f(x: Float64Array): Float64Array {
    const dx = new Float64Array(x.length);
    this.program.derivative(this.seconds, x, dx);
    return dx;
  }

  /** Values of some signals. */
  g(x: Float64Array, slots: readonly SlotNumber[]): Float64Array {
    this.states.forEach((state, index) => {
      this.program.slots[state.slot] = x[index] as number;
    });
    this.program.outputs(this.seconds);
    return Float64Array.from(slots, (slot) => this.program.slots[slot] as number);
  }
}
