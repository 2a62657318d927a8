import type { Program } from '@/core/emit/js';
import type { Plan, SlotNumber } from '@/core/plan';
import type { Crossings } from './crossings';
import type { Delays } from './delays';
import { type Integrator, Progress, type Sliding } from './solvers';

/** What a stretch of variable steps asks of the run it lies in. */
export interface AroundSteps {
  /** A step has come to an instant (ns); its values are not looked at yet. */
  reach(ns: number): void;
  /** Continuous values at an instant (s) go into the trace. */
  record(seconds: number): void;
  /** A located event (ns): the values before it are there. */
  cross(ns: number): void;
  /** @throws RangeError that says at what the run slides */
  slides(seconds: number, sliding: Sliding): never;
}

/** Long steps are looked at in so many parts, lest something comes and goes within one. */
const partsOfLongSteps = 16;

/** Brings the states of a plan from one instant to the next with a method of variable step; events that are located on the way act there. */
export class VariableSteps {
  private readonly states: readonly SlotNumber[];
  private readonly everyNs: number;
  private readonly inside: Float64Array;
  private readonly progress: Progress;
  private untilSeconds = 0;
  /** Where the step under way began. */
  private stepFromNs = 0;
  /** Number of the next point of the raster of records. */
  private nextRecord = 0;
  /** Where an event has ended the stretch. */
  private crossedNs: number | undefined;

  constructor(
    plan: Plan,
    private readonly program: Program,
    private readonly solver: Integrator,
    private readonly crossings: Crossings | undefined,
    private readonly delays: Delays | undefined,
    private readonly around: AroundSteps,
    stopNs: number,
  ) {
    this.states = plan.states.map((state) => state.slot);
    this.everyNs = plan.solver.recordEveryNs;
    this.inside = new Float64Array(this.states.length);
    this.progress = new Progress(this.states.length, stopNs / 1e9, program.derivative);
  }

  integrate(fromNs: number, untilNs: number): void {
    if (this.states.length === 0) return;
    this.untilSeconds = untilNs / 1e9;
    for (let from = fromNs; from < untilNs; ) {
      this.begin(from);
      this.solver.integrate(from / 1e9, this.untilSeconds, (t) => this.accept(t));
      if (this.crossedNs === undefined) {
        this.store(this.solver.x);
        return;
      }
      from = this.crossedNs;
      this.around.cross(from);
    }
  }

  /** From the present values on. */
  private begin(ns: number): void {
    this.states.forEach((slot, index) => {
      this.solver.x[index] = this.program.slots[slot] as number;
    });
    this.crossings?.begin(ns);
    this.delays?.stepBegins(ns);
    this.nextRecord = this.everyNs > 0 ? Math.floor(ns / this.everyNs) + 1 : 0;
    this.stepFromNs = ns;
    this.crossedNs = undefined;
  }

  /** A step that the method has accepted. @returns true when it ends the stretch */
  private accept(t: number): boolean {
    const ns = Math.round(t * 1e9);
    this.around.reach(ns);
    this.store(this.solver.x);
    const sliding = this.progress.step(t, this.solver.x);
    if (sliding) this.around.slides(t, sliding);
    this.locate(ns);
    const end = this.crossedNs === undefined ? t : this.crossedNs / 1e9;
    this.delays?.stepEnds(this.crossedNs ?? ns, (seconds) => (seconds === t ? this.store(this.solver.x) : this.goInside(seconds)));
    this.recordUntil(end);
    if (this.crossedNs !== undefined) {
      this.goInside(end);
      return true;
    }
    if (t < this.untilSeconds) {
      this.store(this.solver.x);
      this.around.record(t);
    }
    this.stepFromNs = ns;
    this.crossings?.begin(ns);
    this.delays?.stepBegins(ns);
    return false;
  }

  /** The first event within the step; dense output stands for a shorter step. */
  private locate(ns: number): void {
    const from = this.stepFromNs;
    const at = this.crossings?.locate(from, ns - from, (after) => this.goInside((from + after) / 1e9), partsOfLongSteps);
    if (at !== undefined) this.crossedNs = from + at;
  }

  /** Points of the raster of records that lie within the step, before an instant (s). */
  private recordUntil(end: number): void {
    if (this.everyNs === 0) return;
    for (; this.recordSeconds < end; this.nextRecord += 1) {
      this.goInside(this.recordSeconds);
      this.around.record(this.recordSeconds);
    }
    if (this.recordSeconds === end) this.nextRecord += 1;
  }

  private get recordSeconds(): number {
    return (this.nextRecord * this.everyNs) / 1e9;
  }

  private goInside(seconds: number): void {
    this.solver.inside(seconds, this.inside);
    this.store(this.inside);
  }

  private store(x: Float64Array): void {
    for (let i = 0; i < this.states.length; i += 1) this.program.slots[this.states[i] as number] = x[i] as number;
  }
}
