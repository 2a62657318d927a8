import type { Derivative } from './types';

/** Accepted steps after which it is looked at whether a run still gets on. */
const block = 2048;
/** Mean step below which it may not, as a share of the run (of ten seconds at most): its end is a million steps away. */
const least = 1e-6;
/** So often at least states turn round in a block of a run that slides. */
const turns = 8;
const halvings = 30;

/** A state that is pushed to and fro over a jump, and the mean step (s). */
export interface Sliding {
  readonly state: number;
  readonly step: number;
}

interface Turn {
  /** Three points one after the other; the second is where it turned. */
  readonly points: readonly [Float64Array, Float64Array, Float64Array];
  readonly count: number;
}

/**
 * Notices a run that slides: where a right-hand side jumps so that it pushes a state back from either side, a method of variable step goes to and fro over the jump in ever shorter steps and never leaves it.
 * An explicit method on a stiff loop looks alike, but gets on; there nothing jumps, however near one looks.
 */
export class Progress {
  private count = 0;
  private from = 0;
  /** The last two points. */
  private readonly before: Float64Array;
  private readonly earlier: Float64Array;
  private readonly direction: Int8Array;
  /** The block before was of short steps. */
  private isShort = false;
  private turned: Turn | undefined;
  private readonly shortest: number;

  /** @param end of the run, s */
  constructor(
    size: number,
    end: number,
    private readonly derivative: Derivative,
  ) {
    this.before = new Float64Array(size);
    this.earlier = new Float64Array(size);
    this.direction = new Int8Array(size);
    this.shortest = least * Math.min(end, 10);
  }

  /** An accepted step to `t` (s). */
  step(t: number, x: Float64Array): Sliding | undefined {
    if (this.isShort) this.notice(x);
    this.earlier.set(this.before);
    this.before.set(x);
    this.count += 1;
    if (this.count < block) return undefined;
    const step = (t - this.from) / block;
    const { turned } = this;
    const state = step < this.shortest && turned && turned.count >= turns ? this.pushed(t, turned) : -1;
    [this.count, this.from, this.isShort, this.turned] = [0, t, step < this.shortest, undefined];
    this.direction.fill(0);
    return state >= 0 ? { state, step } : undefined;
  }

  /** Where a state has turned round, the step before or after has gone over what turns it. */
  private notice(x: Float64Array): void {
    const { before, direction, earlier } = this;
    for (let state = 0; state < x.length; state += 1) {
      const way = Math.sign((x[state] as number) - (before[state] as number));
      if (way === 0) continue;
      if (way === -(direction[state] as number))
        this.turned = { points: [earlier.slice(), before.slice(), x.slice()], count: (this.turned?.count ?? 0) + 1 };
      direction[state] = way;
    }
  }

  /** The first state whose slope jumps between the points. */
  private pushed(t: number, { points: [a, b, c] }: Turn): number {
    return a.findIndex((_, state) => this.jumps(t, a, b, state) || this.jumps(t, b, c, state));
  }

  /** Whether the slope of a state differs between two points however near they are moved to each other. */
  private jumps(t: number, from: Float64Array, to: Float64Array, state: number): boolean {
    const slopes = new Float64Array(from.length);
    const slopeAt = (x: Float64Array): number => {
      this.derivative(t, x, slopes);
      return slopes[state] as number;
    };
    let [a, b] = [from, to];
    let [below, above] = [slopeAt(a), slopeAt(b)];
    const gap = Math.abs(above - below);
    for (let i = 0; i < halvings; i += 1) {
      const middle = a.map((value, index) => (value + (b[index] as number)) / 2);
      const slope = slopeAt(middle);
      if (Math.abs(slope - below) > Math.abs(slope - above)) [b, above] = [middle, slope];
      else [a, below] = [middle, slope];
    }
    return gap > 0 && Math.abs(above - below) > 0.5 * gap;
  }
}
