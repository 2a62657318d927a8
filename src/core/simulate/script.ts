import type { EndCondition, Expectation, ScriptStep } from './types';

/** What the script may ask of the run it steers. */
export interface Steered {
  setInput(input: number, value: number, ns: number): void;
  send(message: number, value: number): void;
  /** A parameter gets another value. */
  tune(slot: number, value: number): void;
  /** The present value of a slot. */
  value(slot: number): number;
  /** Truth of a condition on the values of this instant. */
  holds(condition: number, ns: number): boolean;
}

/** What is told of a script while it is walked through. */
interface Book {
  /** The wait that was given up, and when (ns): nothing further is done then. */
  gaveUp: { readonly text: string; readonly atNs: number } | undefined;
  readonly expected: Expectation[];
}

/** Walks through the steps of a case's script: sets act at once, waits look at every instant of the run, holds let time pass. */
export class ScriptRunner {
  private readonly line: Line;
  private readonly book: Book = { gaveUp: undefined, expected: [] };

  /** The condition that ends the run holds. */
  hasEnded = false;

  /** @param always a condition that is always TRUE: waited for where several are at once, so that each instant is looked at */
  constructor(
    private readonly steps: readonly ScriptStep[],
    private readonly end?: EndCondition,
    private readonly always = -1,
  ) {
    this.line = new Line(steps);
  }

  get gaveUp(): Book['gaveUp'] {
    return this.book.gaveUp;
  }

  get isDone(): boolean {
    return this.gaveUp !== undefined || this.line.isDone;
  }

  /** Earliest instant at which the script wants to be asked again by the clock alone. */
  get wakeNs(): number {
    return this.gaveUp ? Number.POSITIVE_INFINITY : this.line.wakeNs;
  }

  /** The condition at which the script wants to be asked again, its own or that of the end; −1 for none. */
  get waitsFor(): number {
    const [own = -1, ...others] = this.gaveUp ? [] : this.line.waits();
    if (others.length > 0) return this.always;
    if (!this.end) return own;
    return own < 0 ? this.end.condition : (this.end.withWait[own] ?? own);
  }

  /** Takes all steps that are due at this instant, and looks whether it is the last one. */
  advance(ns: number, run: Steered): void {
    if (!this.gaveUp) this.line.advance(ns, run, this.book);
    this.hasEnded = this.end !== undefined && run.holds(this.end.condition, ns);
  }

  /** What the script expected, in the order in which it was decided; what is not decided when the run ends stays open, and so does what was never come to. */
  expected(endNs: number): Expectation[] {
    const open = this.line.open(endNs);
    const known = [...this.book.expected, ...open].map((one) => one.step);
    const never = expectationsIn(this.steps).filter((step) => !known.includes(step));
    return [
      ...this.book.expected,
      ...open,
      ...never.map((step) => ({ step, text: step.text, fromNs: endNs, atNs: endNs, outcome: 'open' as const })),
    ];
  }
}

function expectationsIn(steps: readonly ScriptStep[]): Expectation['step'][] {
  return steps.flatMap((step) => (step.k === 'expect' ? [step] : step.k === 'together' ? step.lines.flatMap(expectationsIn) : []));
}

/** Steps one after the other; some of them may have further lines side by side. */
class Line {
  private at = 0;
  private since = 0;
  private entered = false;
  private beside: readonly Line[] = [];

  constructor(private readonly steps: readonly ScriptStep[]) {}

  get isDone(): boolean {
    return this.at >= this.steps.length;
  }

  get wakeNs(): number {
    const step = this.steps[this.at];
    if (!step || !this.entered) return Number.POSITIVE_INFINITY;
    switch (step.k) {
      case 'hold':
        return this.since + step.ns;
      case 'wait':
        return this.since + step.giveUpNs;
      case 'expect':
        return this.since + step.withinNs;
      case 'together':
        return Math.min(...this.beside.map((one) => one.wakeNs));
      default:
        return Number.POSITIVE_INFINITY;
    }
  }

  /** Conditions at which it goes on. */
  waits(): number[] {
    const step = this.steps[this.at];
    if (!step || !this.entered) return [];
    if (step.k === 'together') return this.beside.flatMap((one) => one.waits());
    return step.k === 'wait' || step.k === 'expect' ? [step.condition] : [];
  }

  /** What it expects at the moment. */
  open(endNs: number): Expectation[] {
    const step = this.steps[this.at];
    if (!step || !this.entered) return [];
    if (step.k === 'together') return this.beside.flatMap((one) => one.open(endNs));
    return step.k === 'expect' ? [{ step, text: step.text, fromNs: this.since, atNs: endNs, outcome: 'open' }] : [];
  }

  advance(ns: number, run: Steered, book: Book): void {
    for (let step = this.steps[this.at]; step && !book.gaveUp; step = this.steps[this.at]) {
      if (!this.entered) this.enter(step, ns);
      if (!this.take(step, ns, run, book)) return;
      this.at += 1;
      this.entered = false;
    }
  }

  private enter(step: ScriptStep, ns: number): void {
    this.entered = true;
    this.since = ns;
    this.beside = step.k === 'together' ? step.lines.map((one) => new Line(one)) : [];
  }

  /** @returns whether the step is over */
  private take(step: ScriptStep, ns: number, run: Steered, book: Book): boolean {
    switch (step.k) {
      case 'set':
        for (const { input, value } of step.changes) run.setInput(input, value, ns);
        return true;
      case 'send':
        run.send(step.message, step.value);
        return true;
      case 'change':
        for (const { slot, value } of step.changes) run.tune(slot, value);
        return true;
      case 'fault':
        if (step.keeps) run.tune(step.keeps.slot, run.value(step.keeps.from));
        for (const { slot, value } of step.sets) run.tune(slot, value);
        return true;
      case 'bench':
        return true;
      case 'hold':
        return ns >= this.since + step.ns;
      case 'wait':
        if (run.holds(step.condition, ns)) return true;
        if (ns >= this.since + step.giveUpNs) book.gaveUp = { text: step.text, atNs: ns };
        return false;
      case 'expect': {
        const isMet = run.holds(step.condition, ns);
        if (!isMet && ns < this.since + step.withinNs) return false;
        book.expected.push({ step, text: step.text, fromNs: this.since, atNs: ns, outcome: isMet ? 'met' : 'broken' });
        return true;
      }
      case 'together':
        for (const line of this.beside) line.advance(ns, run, book);
        return this.beside.every((line) => line.isDone);
    }
  }
}
