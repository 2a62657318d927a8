import { numeric } from '../numeric';

/**
 * Coefficients of Dormand and Prince's 5(4) pair (J. Comput. Appl. Math. 6, 1980) and of its dense output of order 4
 * (Hairer, Nørsett, Wanner, Solving Ordinary Differential Equations I, section II.6).
 */
export const dormandPrince = {
  c: [0, 1 / 5, 3 / 10, 4 / 5, 8 / 9, 1, 1],
  a: [
    [],
    [1 / 5],
    [3 / 40, 9 / 40],
    [44 / 45, -56 / 15, 32 / 9],
    [19372 / 6561, -25360 / 2187, 64448 / 6561, -212 / 729],
    [9017 / 3168, -355 / 33, 46732 / 5247, 49 / 176, -5103 / 18656],
    [35 / 384, 0, 500 / 1113, 125 / 192, -2187 / 6784, 11 / 84],
  ],
  b: [35 / 384, 0, 500 / 1113, 125 / 192, -2187 / 6784, 11 / 84, 0],
  /** Weights of the embedded solution of order 4. */
  lower: [5179 / 57600, 0, 7571 / 16695, 393 / 640, -92097 / 339200, 187 / 2100, 1 / 40],
  dense: [
    -12715105075 / 11282082432,
    0,
    87487479700 / 32700410799,
    -10690763975 / 1880347072,
    701980252875 / 199316789632,
    -1453857185 / 822651844,
    69997945 / 29380423,
  ],
} as const;

export type Derivative = (t: number, x: Float64Array, dx: Float64Array) => void;

export interface Tolerances {
  readonly relative: number;
  readonly absolute: number;
  /** Seconds. */
  readonly largestStep: number;
}

/** Variable-step integrator. Its step size lives on from one interval to the next; its first stage is computed anew. */
export class DormandPrince {
  readonly x: Float64Array;
  private readonly start: Float64Array;
  private readonly trial: Float64Array;
  private readonly k: Float64Array[];
  private step = 0;
  private lastFrom = 0;
  private lastStep = 0;

  constructor(
    size: number,
    private readonly f: Derivative,
    private readonly tolerances: Tolerances,
    /** A domain error in a trial stage rejects the step; anything else is passed on. */
    private readonly isDomainError: (problem: unknown) => boolean,
  ) {
    this.x = new Float64Array(size);
    this.start = new Float64Array(size);
    this.trial = new Float64Array(size);
    this.k = Array.from({ length: 7 }, () => new Float64Array(size));
  }

  /**
   * Integrates `x` from `from` to `until` (seconds), calling `accepted` at the end of each accepted step; when that gives TRUE, it ends there.
   * @throws whatever the right-hand side throws at an accepted point or at the smallest step
   * @throws RangeError when the step becomes too small
   */
  integrate(from: number, until: number, accepted: (t: number) => boolean): void {
    let t = from;
    this.f(t, this.x, this.k[0] as Float64Array);
    if (this.step === 0) this.step = this.firstStep(t, until - from);
    let rejected = false;
    while (t < until) {
      const smallest = 1e-13 * Math.max(Math.abs(t), 1e-3);
      const wanted = Math.min(this.step, this.tolerances.largestStep);
      // A step that would leave a sliver before the end is stretched or halved instead.
      const last = t + wanted * 1.01 >= until;
      const h = last ? until - t : t + 2 * wanted > until ? (until - t) / 2 : wanted;
      const end = last ? until : t + h;
      const error = this.tryStep(t, h, h <= smallest);
      if (!(error <= 1)) {
        if (h <= smallest) throw new RangeError('the step became too small: the equations are too stiff or jump here');
        this.step = h * (Number.isFinite(error) ? Math.max(0.2, 0.9 * numeric.pow(error, -0.2)) : 0.25);
        rejected = true;
        continue;
      }
      const growth = error === 0 ? 5 : Math.min(5, Math.max(0.2, 0.9 * numeric.pow(error, -0.2)));
      const next = h * (rejected ? Math.min(1, growth) : growth);
      // A step cut short by the end of the interval says nothing against the longer one that was planned.
      this.step = last && h < wanted ? Math.max(next, this.step) : next;
      rejected = false;
      this.lastFrom = t;
      this.lastStep = h;
      this.start.set(this.x);
      this.x.set(this.trial);
      t = end;
      const ends = accepted(t);
      [this.k[0], this.k[6]] = [this.k[6] as Float64Array, this.k[0] as Float64Array];
      if (ends) return;
    }
  }

  /** State inside the step accepted last, by dense output. Only valid within `accepted`. */
  inside(t: number, into: Float64Array): void {
    const h = this.lastStep;
    const s = (t - this.lastFrom) / h;
    const { dense } = dormandPrince;
    const k = this.k as Float64Array[];
    for (let i = 0; i < into.length; i += 1) {
      const y0 = this.start[i] as number;
      const difference = (this.x[i] as number) - y0;
      const third = h * (k[0]?.[i] as number) - difference;
      const fourth = difference - h * (k[6]?.[i] as number) - third;
      let fifth = 0;
      for (let stage = 0; stage < 7; stage += 1) fifth += (dense[stage] as number) * (k[stage]?.[i] as number);
      into[i] = y0 + s * (difference + (1 - s) * (third + s * (fourth + (1 - s) * h * fifth)));
    }
  }

  /** One trial step into `trial`; the result is the error in units of the tolerance, NaN when a stage left its domain. */
  private tryStep(t: number, h: number, mustSucceed: boolean): number {
    try {
      return this.stages(t, h);
    } catch (problem) {
      if (mustSucceed || !this.isDomainError(problem)) throw problem;
      return Number.NaN;
    }
  }

  private stages(t: number, h: number): number {
    const { c, a, b, lower } = dormandPrince;
    const { x, trial, k } = this;
    const size = x.length;
    for (let stage = 1; stage < 7; stage += 1) {
      const row = a[stage] as readonly number[];
      for (let i = 0; i < size; i += 1) {
        let sum = 0;
        for (let j = 0; j < stage; j += 1) sum += (row[j] as number) * (k[j]?.[i] as number);
        trial[i] = (x[i] as number) + h * sum;
      }
      this.f(t + (c[stage] as number) * h, trial, k[stage] as Float64Array);
    }
    let total = 0;
    for (let i = 0; i < size; i += 1) {
      let error = 0;
      for (let stage = 0; stage < 7; stage += 1) error += ((b[stage] as number) - (lower[stage] as number)) * (k[stage]?.[i] as number);
      const scale = this.tolerances.absolute + this.tolerances.relative * Math.max(Math.abs(x[i] as number), Math.abs(trial[i] as number));
      total += ((h * error) / scale) ** 2;
    }
    return size === 0 ? 0 : Math.sqrt(total / size);
  }

  /** Starting step after Hairer, Nørsett, Wanner, section II.4. */
  private firstStep(t: number, longest: number): number {
    const { x, k } = this;
    const size = x.length;
    const norm = (v: Float64Array): number => {
      let total = 0;
      for (let i = 0; i < size; i += 1) {
        total += ((v[i] as number) / (this.tolerances.absolute + this.tolerances.relative * Math.abs(x[i] as number))) ** 2;
      }
      return Math.sqrt(total / Math.max(1, size));
    };
    const slope = k[0] as Float64Array;
    const [d0, d1] = [norm(x), norm(slope)];
    const h0 = Math.min(longest, d0 < 1e-5 || d1 < 1e-5 ? 1e-6 : (0.01 * d0) / d1);
    for (let i = 0; i < size; i += 1) this.trial[i] = (x[i] as number) + h0 * (slope[i] as number);
    const later = k[1] as Float64Array;
    try {
      this.f(t + h0, this.trial, later);
    } catch (problem) {
      if (!this.isDomainError(problem)) throw problem;
      return h0;
    }
    for (let i = 0; i < size; i += 1) later[i] = (later[i] as number) - (slope[i] as number);
    const d2 = norm(later) / h0;
    const steepest = Math.max(d1, d2);
    const h1 = steepest <= 1e-15 ? Math.max(1e-6, h0 * 1e-3) : numeric.pow(0.01 / steepest, 0.2);
    return Math.min(100 * h0, h1, longest);
  }
}
