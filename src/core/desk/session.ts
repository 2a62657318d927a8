import { type Criterion, risings, type Signals, signalsOf } from '@/core/criteria';
import type { Node, SlotNumber } from '@/core/plan';
import { type Experiment, type HandAction, type HandEvent, LiveRun, type RunError, type ScriptStep } from '@/core/simulate';
import { joinedTraces, shownOf, type Trace, thinned } from '@/core/trace';
import { type Standing, Standings } from './standings';

/** What a desk runs: an experiment without stimuli of its own, and the criteria it watches. */
export interface DeskOrder {
  readonly experiment: Experiment;
  readonly watched: readonly { readonly requirement: string; readonly name: string; readonly criterion: Criterion }[];
  /** So many rows are kept exactly; older ones are thinned. */
  readonly exactRows: number;
}

/** A step of a button's script, bound to the plan. */
export type ButtonStep = { readonly k: 'hold'; readonly ns: number } | { readonly k: 'do'; readonly action: HandAction };

/** Longest piece of work before the desk looks at the clock (simulated ns). */
const pieceNs = 250e6;
/** The same where nobody waits for a picture in between. */
const catchUpNs = 60e9;
/** A tick takes no longer than this, ms, so that what people do is heard. */
const tickMs = 24;
/** Of what is older than the exact rows so many stretches are kept, each with its least and greatest values. */
const oldStretches = 20_000;
/** More stretches than this no screen shows. */
const shownStretches = 2_500;

/**
 * A loop at the desk: goes on with the time of the wall or faster, takes what people do, stops where it is told to, and comes back to any moment, by running to it again.
 * It asks for the time through `clock` (ms) and has no timers: who owns it calls `tick`.
 */
export class DeskSession {
  private run: LiveRun;
  /** What was before the exact rows, thinned. */
  private old: Trace | undefined;
  private counted: Standings;
  private running = false;
  private targetNs = 0;
  private lastMs = 0;
  /** The condition to stop at, and whether the run is armed for it. */
  private stopAt: Node | undefined;
  private armed = false;
  /** Times real time; infinite: as fast as it goes. */
  speed = 1;

  constructor(
    private readonly order: DeskOrder,
    private readonly clock: () => number,
  ) {
    this.run = new LiveRun(order.experiment);
    this.counted = this.uncounted();
  }

  get isRunning(): boolean {
    return this.running;
  }

  get nowNs(): number {
    return this.run.nowNs;
  }

  get error(): RunError | undefined {
    return this.run.error;
  }

  get events(): readonly HandEvent[] {
    return this.run.events;
  }

  /** At the end of what a desk keeps. */
  get isFull(): boolean {
    return this.run.nowNs >= this.order.experiment.stopNs;
  }

  play(): void {
    this.arm();
    this.running = true;
    this.lastMs = this.clock();
    this.targetNs = this.run.nowNs;
  }

  pause(): void {
    this.running = false;
  }

  /** One hit further, standing still after it. */
  hit(): void {
    this.running = false;
    this.run.hit();
  }

  /** Back to the start; what was set there stays set. */
  back(): void {
    this.goTo(0);
  }

  /** To a moment of this run: it is gone through again with all that was done until then, and what was done later is forgotten. */
  goTo(ns: number): void {
    this.load(
      this.run.events.filter((event) => event.atNs <= ns),
      ns,
    );
  }

  /** Goes on from another set of events: a take that was kept. */
  load(events: readonly HandEvent[], ns: number): void {
    this.running = false;
    this.armed = false;
    this.begin(this.order.experiment, events, ns);
  }

  private uncounted(): Standings {
    return new Standings(this.order.watched.map((one) => one.criterion));
  }

  /** A run that goes to an instant; on the way there old rows are thinned as they always are. */
  private begin(experiment: Experiment, events: readonly HandEvent[], ns: number): void {
    this.run = new LiveRun(experiment, events);
    this.old = undefined;
    this.counted = this.uncounted();
    let before = -1;
    while (this.run.nowNs < ns && this.run.nowNs !== before && !this.run.error) {
      before = this.run.nowNs;
      this.run.goOn(Math.min(ns, before + Math.max(catchUpNs, this.longestHit)));
      this.thin();
    }
  }

  /** Once there are too many rows, the older half is let go and thinned. */
  private thin(): void {
    if (this.run.rows <= this.order.exactRows) return;
    const trace = this.run.trace();
    const middle = trace.bases[0]?.[Math.floor(this.run.rows / 2)] ?? trace.from;
    const gone = this.run.letGo(this.counted.letGo(this.signals(), middle));
    const before = this.old ? joinedTraces(this.old, gone) : gone;
    this.old = thinned(before, oldStretches);
  }

  /** The instant (s) from which on every row is kept; before it there are least and greatest values. */
  get exactFrom(): number {
    return this.old ? this.run.trace().from : 0;
  }

  /**
   * @param asEvent not as a value of the start
   * @returns the instant at which it acts (ns)
   */
  act(action: HandAction, asEvent = false): number {
    return this.run.act(action, asEvent);
  }

  press(steps: readonly ButtonStep[]): void {
    let delay = 0;
    for (const step of steps) {
      if (step.k === 'hold') delay += step.ns;
      else this.run.act(step.action, true, delay);
    }
  }

  /** Stands still when the condition comes true, from FALSE, after now; nothing: no more. */
  pauseWhen(condition: Node | undefined): void {
    this.stopAt = condition;
    this.armed = false;
    if (this.running) this.arm();
  }

  /** The script of the run waits for the condition from now on: a run with another script is another run, gone through to here. */
  private arm(): void {
    if (!this.stopAt || (this.armed && !this.run.scriptIsDone)) return;
    const conditions: Node[] = [{ k: 'not', type: 'BOOL', a: this.stopAt }, this.stopAt];
    const wait = (condition: number): ScriptStep => ({ k: 'wait', condition, giveUpNs: Number.POSITIVE_INFINITY, text: '' });
    const script: ScriptStep[] = [{ k: 'hold', ns: this.run.nowNs }, wait(0), wait(1)];
    this.begin({ ...this.order.experiment, script, conditions }, this.run.events, this.run.nowNs);
    this.armed = true;
  }

  /**
   * Goes on by as much as the clock has since the last tick, or as far as there is time for.
   * @returns true when the condition to stop at has come true in it
   */
  tick(): boolean {
    if (!this.running) return false;
    const begun = this.clock();
    this.targetNs = this.speed === Number.POSITIVE_INFINITY ? Number.POSITIVE_INFINITY : this.targetNs + (begun - this.lastMs) * 1e6 * this.speed;
    this.lastMs = begun;
    const { run, armed } = this;
    let before = -1;
    while (run.nowNs < this.targetNs && run.nowNs !== before && !run.error && this.clock() - begun < tickMs) {
      before = run.nowNs;
      run.goOn(Math.min(this.targetNs, run.nowNs + this.piece), armed);
      this.thin();
      if (armed && run.scriptIsDone) {
        this.running = false;
        return true;
      }
    }
    // What could not be kept up with is not run after.
    if (this.clock() - begun >= tickMs) this.targetNs = Math.max(run.nowNs, Math.min(this.targetNs, run.nowNs + pieceNs));
    if (run.error || this.isFull) this.running = false;
    return false;
  }

  /** So much is run before the clock is looked at again (ns): more where time goes fast. */
  private get piece(): number {
    const fast = Math.min(this.speed, 1_000) / 4;
    return Math.max(pieceNs * Math.max(1, fast / 25), this.longestHit);
  }

  private get longestHit(): number {
    return Math.max(0, ...this.order.experiment.plan.tasks.map((task) => task.periodNs));
  }

  /** Present values of slots. */
  values(slots: readonly SlotNumber[]): Float64Array {
    return Float64Array.from(slots, (slot) => this.run.value(slot));
  }

  /** Some signals over the seconds before an instant (s), or the last ones, with no more rows than a screen shows; in memory of its own. */
  lanes(slots: readonly SlotNumber[], seconds: number, until?: number): Trace {
    const end = until ?? this.run.nowNs / 1e9;
    const exact = shownOf(this.run.trace(), slots, end - seconds, until, shownStretches);
    if (!this.old || end - seconds >= this.exactFrom) return exact;
    return joinedTraces(shownOf(this.old, slots, end - seconds, until, shownStretches), exact);
  }

  /** The trace so far, from where it is kept exactly; good until the run goes on. */
  trace(): Trace {
    return this.run.trace();
  }

  /** When a condition came true so far (s). */
  risings(condition: Node): number[] {
    return risings(condition, this.signals());
  }

  private signals(): Signals {
    const trace = this.run.trace();
    return signalsOf(trace, (slot) => this.run.value(slot));
  }

  /** How each watched criterion stands at this instant. */
  standings(): Standing[] {
    return this.counted.at(this.signals());
  }
}
