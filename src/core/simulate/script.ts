import type { EndCondition, ScriptStep } from './types';

/** What the script may ask of the run it steers. */
export interface Steered {
  setInput(input: number, value: number, ns: number): void;
  send(message: number, value: number): void;
  /** Truth of a condition on the values of this instant. */
  holds(condition: number, ns: number): boolean;
}

/** Walks through the steps of a case's script: sets act at once, waits look at every instant of the run, holds let time pass. */
export class ScriptRunner {
  private at = 0;
  private since = 0;
  private entered = false;
  /** The wait that was given up, and when (ns). */
  gaveUp: { readonly text: string; readonly atNs: number } | undefined;

  /** The condition that ends the run holds. */
  hasEnded = false;

  constructor(
    private readonly steps: readonly ScriptStep[],
    private readonly end?: EndCondition,
  ) {}

  get isDone(): boolean {
    return this.at >= this.steps.length;
  }

  /** Earliest instant at which the script wants to be asked again by the clock alone. */
  get wakeNs(): number {
    const step = this.steps[this.at];
    if (!step || step.k === 'set' || step.k === 'send' || !this.entered) return Number.POSITIVE_INFINITY;
    return this.since + (step.k === 'hold' ? step.ns : step.giveUpNs);
  }

  /** The condition at which the script wants to be asked again, its own or that of the end; −1 for none. */
  get waitsFor(): number {
    const step = this.steps[this.at];
    const own = step?.k === 'wait' && this.entered ? step.condition : -1;
    if (!this.end) return own;
    return own < 0 ? this.end.condition : (this.end.withWait[own] ?? own);
  }

  /** Takes all steps that are due at this instant, and looks whether it is the last one. */
  advance(ns: number, run: Steered): void {
    this.takeSteps(ns, run);
    this.hasEnded = this.end !== undefined && run.holds(this.end.condition, ns);
  }

  private takeSteps(ns: number, run: Steered): void {
    for (let step = this.steps[this.at]; step; step = this.steps[this.at]) {
      if (!this.entered) {
        this.entered = true;
        this.since = ns;
      }
      if (step.k === 'set') {
        for (const { input, value } of step.changes) run.setInput(input, value, ns);
      } else if (step.k === 'send') {
        run.send(step.message, step.value);
      } else if (step.k === 'hold') {
        if (ns < this.since + step.ns) return;
      } else if (!run.holds(step.condition, ns)) {
        if (ns < this.since + step.giveUpNs) return;
        this.gaveUp = { text: step.text, atNs: ns };
        this.at = this.steps.length;
        return;
      }
      this.at += 1;
      this.entered = false;
    }
  }
}
