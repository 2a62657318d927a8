import type { FreeInput, Node, SlotNumber } from '@/core/plan';
import type { Sorted } from './sorted';
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

/** Writes the continuous part of a plan into one function. In emitted code held values are h<slot>, steady ones s<slot>, timed ones w<slot><instant> and moving ones y<slot>. */
export class Continuous {
  readonly temporaries = new Temporaries();
  private readonly held: ReadonlySet<SlotNumber>;

  constructor(
    private readonly sorted: Sorted,
    private readonly writer: Writer,
  ) {
    this.held = new Set(sorted.held);
  }

  /** How a slot is read at an instant (a letter that tells the instants of a step apart, or none). */
  read(slot: SlotNumber, instant: string): string {
    switch (this.sorted.kind(slot)) {
      case 'steady':
        return `s${slot}`;
      case 'timed':
        return `w${slot}${instant}`;
      case 'moving':
        return `y${slot}`;
      case undefined:
        return this.held.has(slot) ? `h${slot}` : this.writer.slot(slot);
    }
  }

  private around(instant: string, time: string): Surroundings {
    return { slot: (slot) => this.read(slot, instant), time, hit: '0', temporaries: this.temporaries };
  }

  load(): string {
    return this.sorted.held.map((slot) => `${this.writer.constant}h${slot}=${this.writer.slot(slot)};`).join('');
  }

  steady(): string {
    const { constant } = this.writer;
    const around = this.around('', '0');
    const inputs = this.sorted.inputs('steady').map((input) => `${constant}s${input.slot}=h${input.base};`);
    const values = this.sorted.assignments.steady.map(({ slot, value }) => `${constant}s${slot}=${this.writer.expression(value, around)};`);
    return [...inputs, ...values].join('');
  }

  /** Free inputs and assignments that depend on time alone. */
  timedSlots(): SlotNumber[] {
    return [...this.sorted.inputs('timed'), ...this.sorted.assignments.timed].map(({ slot }) => slot);
  }

  declareTimed(instant: string): string {
    const names = this.timedSlots().map((slot) => `w${slot}${instant}=0`);
    return names.length > 0 ? `${this.writer.variable}${names.join(',')};` : '';
  }

  timed(instant: string, time: string, how: 'const' | 'assign'): string {
    const head = how === 'const' ? this.writer.constant : '';
    const around = this.around(instant, time);
    const inputs = this.sorted
      .inputs('timed')
      .map((input) => `${head}w${input.slot}${instant}=${inputExpression(input, (slot) => `h${slot}`, time)};`);
    const values = this.sorted.assignments.timed.map(({ slot, value }) => `${head}w${slot}${instant}=${this.writer.expression(value, around)};`);
    return [...inputs, ...values].join('');
  }

  carry(from: string, to: string): string {
    return this.timedSlots()
      .map((slot) => `w${slot}${to}=w${slot}${from};`)
      .join('');
  }

  /** Values that follow from the states: those the derivatives need, or those that only the log needs besides. */
  moving(instant: string, time: string, need: 'derivatives' | 'log only'): string {
    const { assignments, forDerivatives, forLog } = this.sorted;
    const around = this.around(instant, time);
    return assignments.moving
      .filter(({ slot }) => (need === 'derivatives' ? forDerivatives.has(slot) : forLog.has(slot) && !forDerivatives.has(slot)))
      .map(({ slot, value }) => `${this.writer.constant}y${slot}=${this.writer.expression(value, around)};`)
      .join('');
  }

  derivatives(target: (index: number) => string, instant: string, time: string): string {
    const around = this.around(instant, time);
    return this.sorted.plan.states.map(({ derivative }, index) => `${target(index)}=${this.writer.expression(derivative, around)};`).join('');
  }
}
