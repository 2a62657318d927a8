import type { SlotNumber } from '@/core/plan';

/** How an emitter writes the value of a slot at the place where an expression stands. */
export interface Surroundings {
  readonly slot: (slot: SlotNumber) => string;
  readonly time: string;
  readonly hit: string;
  /** Address of a slot, where work may change it. */
  readonly place?: (slot: SlotNumber) => string;
  /** Local variables for values that are used twice; without them the checks are calls. */
  readonly temporaries?: Temporaries;
}

/** Local variables of one emitted function. */
export class Temporaries {
  private count = 0;

  next(): string {
    this.count += 1;
    return `q${this.count}`;
  }

  declaration(): string {
    return this.count === 0 ? '' : `let ${Array.from({ length: this.count }, (_, index) => `q${index + 1}=0`).join(',')};`;
  }
}
