import { isFixed, type SlotNumber } from '@/core/plan';
import type { Trace } from '@/core/trace';
import { Executive } from './executive';
import type { Experiment, HandEvent, RunError } from './types';

/** A change before it has its instant. */
export type HandAction = HandEvent extends infer E ? (E extends { atNs: number } ? Omit<E, 'atNs'> : never) : never;

/** Memory is taken for so much at first. */
const roomNs = 120e9;
/** The next instant that is near enough where the solver has no grid. */
const soonNs = 1e6;
const pieceNs = 1e8;

/**
 * A run that goes on piece by piece while people change its inputs and parameters. What they do gets an instant of the run, and nothing else about the pieces is seen in the trace:
 * the same events given from the start make the same bytes, with fixed steps and with sampled parts. A variable step without sampled parts ends where a piece does, within its tolerance.
 */
export class LiveRun {
  private executive: Executive;
  private readonly done: HandEvent[];
  private problem: RunError | undefined;

  /**
   * @param byHand what is done, in order of time
   * @param untilNs the instant to go to at once: a moment that was kept
   */
  constructor(
    readonly experiment: Experiment,
    byHand: readonly HandEvent[] = [],
    untilNs = 0,
  ) {
    this.done = [...byHand];
    this.executive = this.begun();
    if (untilNs > 0) this.goOn(untilNs);
  }

  /** At the start, with what is set there. */
  private begun(): Executive {
    const executive = new Executive(this.experiment, this.done, roomNs);
    this.problem = executive.begin();
    return executive;
  }

  /** The present instant (ns). */
  get nowNs(): number {
    return this.executive.nowNs;
  }

  /** Why it cannot go on. */
  get error(): RunError | undefined {
    return this.problem;
  }

  /** What was done by hand, in order of time; some of it may still be to come. */
  get events(): readonly HandEvent[] {
    return this.done;
  }

  /** True when the script has come to its end: what it waited for is here. */
  get scriptIsDone(): boolean {
    return this.executive.scriptIsDone;
  }

  /** Goes on, at most to the limit (ns), and with `withScript` no further than the end of the script. */
  goOn(limitNs: number, withScript = false): void {
    if (!this.problem) this.problem = this.executive.goOn(Math.min(limitNs, this.experiment.stopNs), withScript);
  }

  /** Goes on to the next hit; where nothing is sampled, by a step of the fixed grid, or by a tenth of a second. */
  hit(): void {
    const { solver, tasks } = this.experiment.plan;
    if (tasks.length > 0) this.goOn(this.executive.nextHitNs);
    else this.goOn(this.nowNs + (isFixed(solver.method) ? solver.stepNs : pieceNs));
  }

  /**
   * Does something at the next instant that can take it, which before anything has gone on is the start itself: a start value.
   * @param asEvent not at the start but after it, so that it is seen to happen
   * @returns that instant (ns)
   */
  act(action: HandAction, asEvent = false, delayNs = 0): number {
    const atNs = (asEvent ? this.seen(action, this.soonest(true)) : this.soonest(false)) + delayNs;
    const same = (one: HandEvent): boolean =>
      one.atNs === atNs &&
      ((one.k === 'set' && action.k === 'set' && one.input === action.input) ||
        (one.k === 'tune' && action.k === 'tune' && one.slot === action.slot));
    const before = this.done.findIndex(same);
    if (before >= 0) this.done.splice(before, 1);
    const place = this.done.findIndex((one) => one.atNs > atNs);
    this.done.splice(place < 0 ? this.done.length : place, 0, { ...action, atNs });
    if (atNs === 0) this.executive = this.begun();
    return atNs;
  }

  /** A press and its release are two things that happen, however quick: a sampled part has a hit between them. */
  private seen(action: HandAction, soonest: number): number {
    if (action.k !== 'set') return soonest;
    const { solver, tasks } = this.experiment.plan;
    const apart = Math.max(isFixed(solver.method) ? solver.stepNs : soonNs, ...tasks.map((task) => task.periodNs));
    const before = this.done.filter((event) => event.k === 'set' && event.input === action.input).at(-1);
    return before && before.atNs > 0 ? Math.max(soonest, before.atNs + apart) : soonest;
  }

  /** An instant already dealt with, unless it is the start, takes no more changes; the next point of a fixed step's grid does, else the next hit. */
  private soonest(asEvent: boolean): number {
    const { nowNs, executive } = this;
    if (executive.isBetween || (nowNs === 0 && !asEvent)) return nowNs;
    const { solver, tasks } = this.experiment.plan;
    if (isFixed(solver.method)) return (Math.floor(nowNs / solver.stepNs) + 1) * solver.stepNs;
    return tasks.length > 0 ? Math.min(executive.nextHitNs, this.experiment.stopNs) : nowNs + soonNs;
  }

  value(slot: SlotNumber): number {
    return this.executive.value(slot);
  }

  /** Rows that are kept. */
  get rows(): number {
    return this.executive.rows;
  }

  /** Lets the rows before an instant (s) go. @returns them */
  letGo(seconds: number): Trace {
    return this.executive.letGo(seconds);
  }

  /** The trace so far; it shares memory with the run and is good until that goes on. */
  trace(): Trace {
    return this.executive.traceSoFar();
  }
}
