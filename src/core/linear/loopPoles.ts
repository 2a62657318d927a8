import { Matrix, pseudoInverse } from 'ml-matrix';
import { type Plan, type SlotNumber, slotsWritten } from '@/core/plan';
import { Executive, type Experiment } from '@/core/simulate';
import { jacobian } from './jacobian';
import { linearise } from './linearise';
import { ContinuousPart, refuseDeadTimes } from './part';
import { polesOf } from './poles';
import { steadyState } from './steady';

/** Per second; or why there is none. */
export type LargestRealPart = { readonly perSecond: number } | { readonly why: string };

/**
 * The largest real part of the poles of a whole loop, its sampled components included, about the rest it has near where a run is at an instant: inputs, parameters and states of charts are as they are then.
 * Sampled components are lifted over the common period T of all tasks (B. Friedland 1961; S. Bittanti, P. Colaneri 2009, Periodic Systems, 6): over T the values that are kept, continuous and sampled,
 * go over into others by a map, whose eigenvalues μ are those of one sampled system; a pole of the loop has the real part ln |μ| / T. The map is the run itself, gone on from there, so that it is the
 * loop as it is simulated. Of a loop without sampled components the poles are those of its equations.
 * @param atSeconds the instant
 */
export function largestRealPart(experiment: Experiment, atSeconds: number): LargestRealPart {
  const { plan } = experiment;
  if (plan.draws.length > 0) return { why: 'the loop draws random numbers' };
  try {
    return plan.tasks.length === 0 ? ofEquations(experiment, atSeconds) : new Lifted(experiment, atSeconds).largest();
  } catch (problem) {
    if (problem instanceof RangeError) return { why: problem.message };
    throw problem;
  }
}

function ofEquations(experiment: Experiment, atSeconds: number): LargestRealPart {
  const part = new ContinuousPart(experiment, atSeconds);
  if (part.states.length === 0) return { why: 'the loop has no states' };
  const steady = steadyState(part);
  if (!steady.isSteady) return { why: 'the loop has no rest near that instant' };
  const poles = polesOf(linearise(part, steady.x, [], []).a);
  return { perSecond: Math.max(...poles.map((pole) => pole.re)) };
}

/** Longest common period that is gone through (ns). */
const longestPeriodNs = 60e9;
/** Values kept from hit to hit, at most: each costs two periods. */
const mostKept = 400;
const mostSteps = 25;
/** Change over a period, in parts of the value's size, at which it rests. */
const still = 1e-9;

/** A loop with sampled components as one map from period to period. */
class Lifted {
  private readonly periodNs: number;
  private readonly kept: readonly SlotNumber[];
  /** Truths, whole numbers and times that are kept: they have to be the same after a period whatever is disturbed a little. */
  private readonly discrete: readonly SlotNumber[];
  /** How many of those that are kept are continuous states; they come first. */
  private readonly continuous: number;
  private readonly run: Executive;
  private readonly before: Float64Array;
  private nowNs: number;

  constructor(experiment: Experiment, atSeconds: number) {
    const { plan } = experiment;
    refuseDeadTimes(plan);
    this.periodNs = commonPeriod(plan);
    const written = [...plan.tasks.reduce((found, task) => slotsWritten(task.work, found), new Set<SlotNumber>())];
    const isReal = (slot: SlotNumber): boolean => plan.slots[slot]?.type === 'LREAL' || plan.slots[slot]?.type === 'REAL';
    this.kept = [...plan.states.map((state) => state.slot), ...written.filter(isReal)];
    this.continuous = plan.states.length;
    this.discrete = written.filter((slot) => !isReal(slot));
    if (this.kept.length > mostKept) throw new RangeError(`the loop keeps more than ${mostKept} numbers`);
    this.nowNs = Math.floor((atSeconds * 1e9) / this.periodNs) * this.periodNs;
    const { end: _end, ...rest } = experiment;
    const tight = { ...plan.solver, relativeTolerance: 1e-11, absoluteTolerance: 1e-13 };
    this.run = new Executive({ ...rest, plan: { ...plan, solver: tight }, stopNs: Number.MAX_SAFE_INTEGER }, [], this.nowNs + 1e9);
    const error = this.run.begin();
    if (error) throw new RangeError(error.message);
    this.middle = this.goToTheEnd();
    this.before = this.valuesOf(this.discrete);
  }

  /** The mean over the last third of the run: what swings about a rest that it never comes to has its middle near it. */
  private readonly middle: Float64Array;

  private goToTheEnd(): Float64Array {
    const periods = this.nowNs / this.periodNs;
    const from = Math.floor((2 * periods) / 3);
    const sum = new Float64Array(this.kept.length);
    for (let period = from; period <= periods; period += 1) {
      const error = this.run.goOn(period * this.periodNs);
      if (error) throw new RangeError(error.message);
      this.kept.forEach((slot, index) => {
        sum[index] = (sum[index] as number) + this.run.value(slot);
      });
    }
    return sum.map((value) => value / (periods - from + 1));
  }

  private valuesOf(slots: readonly SlotNumber[]): Float64Array {
    return Float64Array.from(slots, (slot) => this.run.value(slot));
  }

  /** What is kept a period later. */
  private after(kept: Float64Array): Float64Array {
    this.nowNs += this.periodNs;
    const error = this.run.goOnWith([...this.kept, ...this.discrete], [...kept, ...this.before], this.nowNs);
    if (error) throw new RangeError(error.message);
    return this.valuesOf(this.kept);
  }

  largest(): LargestRealPart {
    const end = this.valuesOf(this.kept);
    const rest = this.restFrom(end) ?? this.restFrom(this.middle);
    if (!rest) return { why: 'the loop has no rest near that instant' };
    this.after(rest);
    const discrete = this.valuesOf(this.discrete);
    let switches = false;
    const map = jacobian((at) => {
      const next = this.after(at);
      switches ||= this.valuesOf(this.discrete).some((value, index) => value !== discrete[index]);
      return next;
    }, rest);
    if (switches) return { why: 'the loop switches where it rests' };
    const sizes = polesOf(this.withoutHeld(map)).map((pole) => Math.hypot(pole.re, pole.im));
    const largest = Math.max(0, ...sizes);
    if (largest < noise) return { why: 'the loop forgets everything within a period' };
    return { perSecond: Math.abs(largest - 1) < noise ? 0 : Math.log(largest) / (this.periodNs / 1e9) };
  }

  /** What a sampled component keeps and does not write in the states its charts are in is held as a parameter is, and is no pole at 0. */
  private withoutHeld(map: Matrix): Matrix {
    const isHeld = (index: number): boolean =>
      index >= this.continuous && map.getRow(index).every((value, column) => value === (column === index ? 1 : 0));
    const moving = this.kept.flatMap((_, index) => (isHeld(index) ? [] : [index]));
    return map.selection(moving, moving);
  }

  /** Newton's method for a rest of the map, with halved steps; what the map leaves open stays as it was. */
  private restFrom(from: Float64Array): Float64Array | undefined {
    let at = from;
    let change = moved(this.after(at), at, -1);
    for (let step = 0; step < mostSteps && size(change, at) > still; step += 1) {
      const slope = jacobian((x) => this.after(x), at).sub(Matrix.eye(at.length));
      const towards = pseudoInverse(slope)
        .mmul(Matrix.columnVector([...change]))
        .to1DArray();
      const next = this.better(at, change, towards);
      if (!next) return undefined;
      [at, change] = next;
    }
    return size(change, at) <= still ? at : undefined;
  }

  private better(at: Float64Array, change: Float64Array, towards: readonly number[]): [Float64Array, Float64Array] | undefined {
    for (let share = 1; share > 1e-3; share /= 2) {
      const next = moved(at, towards, -share);
      const then = moved(this.after(next), next, -1);
      if (size(then, next) < size(change, at) || size(then, next) <= still) return [next, then];
    }
    return undefined;
  }
}

/** What differences leave of 0, and of a distance from 1. */
const noise = 1e-7;

/** a + share · b */
function moved(a: Float64Array, b: ArrayLike<number>, share: number): Float64Array {
  return a.map((value, index) => value + share * (b[index] as number));
}

function size(change: Float64Array, at: Float64Array): number {
  return Math.max(0, ...Array.from(change, (value, index) => Math.abs(value) / Math.max(1, Math.abs(at[index] as number))));
}

function commonPeriod({ tasks }: Plan): number {
  const common = (a: number, b: number): number => (b === 0 ? a : common(b, a % b));
  const period = tasks.reduce((all, { periodNs }) => (all / common(all, periodNs)) * periodNs, 1);
  if (period > longestPeriodNs) throw new RangeError('the periods of the loop have no common one below a minute');
  return period;
}
