import type { Program } from '@/core/emit/js';
import type { Plan } from '@/core/plan';

/** Events at one instant and the next after which a run counts as caught between them. */
const mostWithinStep = 1000;

/** The located events of a plan: finds, within a step, the first instant (to a nanosecond) at which a condition has become true. */
export class Crossings {
  private readonly before: boolean[];
  private readonly states: readonly number[];
  private readonly start: Float64Array;
  private due: number[] = [];
  private lastNs = -1;
  private count = 0;

  constructor(
    private readonly plan: Plan,
    private readonly program: Program,
  ) {
    this.before = plan.crossings.map(() => false);
    this.states = plan.states.map((state) => state.slot);
    this.start = new Float64Array(this.states.length);
  }

  /** A step begins at the present values. */
  begin(ns: number): void {
    this.states.forEach((slot, index) => {
      this.start[index] = this.program.slots[slot] as number;
    });
    this.program.outputs(ns / 1e9);
    this.look(ns);
  }

  /**
   * After a step of `lengthNs` from `fromNs` on: looks at the ends of so many parts of it, and bisects the first one at whose end a condition holds that
   * did not at its beginning.
   * @param reach brings the states to so many nanoseconds after the beginning, from the values there
   * @returns the nanoseconds from the beginning, the states being there; `undefined` when nothing has happened, the states being at the end
   */
  locate(fromNs: number, lengthNs: number, reach: (ns: number) => void, parts = 1): number | undefined {
    const at = (ns: number): boolean => {
      this.restore();
      reach(ns);
      return this.anyAt(fromNs + ns);
    };
    for (let part = 1; part <= parts; part += 1) {
      const end = part === parts ? lengthNs : Math.floor((lengthNs * part) / parts);
      if (!(parts === 1 ? this.anyAt(fromNs + end) : at(end))) {
        this.look(fromNs + end);
        continue;
      }
      let [low, high] = [Math.floor((lengthNs * (part - 1)) / parts), end];
      while (high - low > 1) {
        const middle = low + Math.floor((high - low) / 2);
        if (at(middle)) high = middle;
        else low = middle;
      }
      at(high);
      return high;
    }
    return undefined;
  }

  private look(ns: number): void {
    this.program.crossings.forEach((crossing, index) => {
      this.before[index] = crossing.holds(ns / 1e9) === 1;
    });
  }

  private anyAt(ns: number): boolean {
    this.program.outputs(ns / 1e9);
    this.due = this.program.crossings.flatMap((crossing, index) => (!this.before[index] && crossing.holds(ns / 1e9) === 1 ? [index] : []));
    return this.due.length > 0;
  }

  /**
   * At an instant of the run: a condition that a jump has made true is an event as well. At the very start only that has happened which is said to happen from the start.
   * @returns true when states have new values
   * @throws RangeError when events follow each other without end
   */
  jump(ns: number, isStart: boolean): boolean {
    const happens = this.anyAt(ns);
    if (isStart) this.due = this.due.filter((index) => this.plan.crossings[index]?.fromStart);
    if (happens && this.due.length > 0) {
      this.apply(ns);
      return true;
    }
    this.look(ns);
    return false;
  }

  /** Gives the states their new values, and then those of the events that these bring about at the same instant. @throws RangeError when events follow each other without end */
  apply(ns: number): void {
    do {
      this.look(ns);
      this.applyDue(ns);
    } while (this.anyAt(ns));
    this.look(ns);
  }

  private applyDue(ns: number): void {
    this.count = ns - this.lastNs <= 1000 ? this.count + 1 : 0;
    this.lastNs = ns;
    if (this.count > mostWithinStep) {
      const site = this.plan.sites[this.plan.crossings[this.due[0] ?? 0]?.site ?? 0];
      throw new RangeError(
        `the event "${site?.text ?? ''}" (${site?.file ?? ''}:${site?.line ?? 0}) follows itself without end; let it leave its own condition, or stop the motion there`,
      );
    }
    for (const index of this.due) this.program.crossings[index]?.apply(ns / 1e9);
  }

  private restore(): void {
    this.states.forEach((slot, index) => {
      this.program.slots[slot] = this.start[index] as number;
    });
  }
}
