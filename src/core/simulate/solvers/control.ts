import { numeric } from '@/core/numeric';
import { type Derivative, type Effort, type Integrator, StepCollapse, type Tolerances } from './types';

/** How the next step is chosen from the error of the last, in units of the tolerance. */
export interface StepRule {
  /** One over the order of the error. */
  readonly exponent: number;
  /** Share of the error before (PI control after Gustafsson; Hairer, Nørsett, Wanner I, section II.4, and their driver); 0 for none. */
  readonly beta: number;
  readonly safety: number;
  /** Largest factors by which a step shrinks and grows. */
  readonly shrink: number;
  readonly grow: number;
}

const domainError = Number.NaN;

/** What all methods of variable step have in common: trial steps, their control, and the way to the end of an interval. */
export abstract class VariableStep implements Integrator {
  readonly x: Float64Array;
  readonly effort: Effort = { accepted: 0, rejected: 0, evaluations: 0 };
  protected readonly start: Float64Array;
  protected readonly trial: Float64Array;
  /** Error of each state in the trial step, in units of the tolerance. */
  protected readonly errors: Float64Array;
  protected lastFrom = 0;
  protected lastStep = 0;
  private readonly relative: Float64Array;
  private readonly absolute: Float64Array;
  private step = 0;
  private errorBefore = 1e-4;

  constructor(
    size: number,
    private readonly f: Derivative,
    protected readonly tolerances: Tolerances,
    /** A domain error in a trial stage rejects the step; anything else is passed on. */
    private readonly isDomainError: (problem: unknown) => boolean,
    private readonly rule: StepRule,
  ) {
    this.x = new Float64Array(size);
    this.start = new Float64Array(size);
    this.trial = new Float64Array(size);
    this.errors = new Float64Array(size);
    this.relative = new Float64Array(size).fill(tolerances.relative);
    this.absolute = new Float64Array(size).fill(tolerances.absolute);
    for (const { state, relative, absolute } of tolerances.ofStates ?? []) {
      this.relative[state] = relative ?? tolerances.relative;
      this.absolute[state] = absolute ?? tolerances.absolute;
    }
  }

  /** The slope at the beginning of an interval. */
  protected abstract begin(t: number): Float64Array;
  /** One trial step from `x` into `trial`, its error into `errors`. */
  protected abstract stages(t: number, h: number): void;
  /** The trial step was taken. */
  protected abstract taken(): void;
  abstract inside(t: number, into: Float64Array): void;

  protected evaluate(t: number, x: Float64Array, into: Float64Array): void {
    this.effort.evaluations += 1;
    this.f(t, x, into);
  }

  integrate(from: number, until: number, accepted: (t: number) => boolean): void {
    const { rule } = this;
    let t = from;
    const slope = this.begin(t);
    if (this.step === 0) this.step = this.firstStep(t, until - from, slope);
    let rejected = false;
    while (t < until) {
      // As in the book's driver; a longer one keeps tight tolerances from passing a jump late in a run.
      const smallest = 10 * Number.EPSILON * Math.max(Math.abs(t), 1e-3);
      const wanted = Math.min(this.step, this.tolerances.largestStep);
      // A step that would leave a sliver before the end is stretched or halved instead.
      const last = t + wanted * 1.01 >= until;
      const h = last ? until - t : t + 2 * wanted > until ? (until - t) / 2 : wanted;
      const end = last ? until : t + h;
      const error = this.tryStep(t, h, h <= smallest);
      const plain = rule.safety * numeric.pow(Math.max(error, 1e-10), -(rule.exponent - 0.75 * rule.beta));
      if (!(error <= 1)) {
        if (h <= smallest) throw new StepCollapse(this.worstState());
        this.effort.rejected += 1;
        this.step = h * (Number.isFinite(error) ? Math.max(rule.shrink, plain) : 0.25);
        rejected = true;
        continue;
      }
      this.effort.accepted += 1;
      const controlled =
        rule.safety * numeric.pow(Math.max(error, 1e-10), -(rule.exponent - 0.75 * rule.beta)) * numeric.pow(this.errorBefore, rule.beta);
      const growth = Math.min(rule.grow, Math.max(rule.shrink, rule.beta > 0 ? controlled : plain));
      this.errorBefore = Math.max(error, 1e-4);
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
      this.taken();
      if (ends) return;
    }
  }

  /** The result is the error in units of the tolerance, NaN when a stage left its domain. */
  private tryStep(t: number, h: number, mustSucceed: boolean): number {
    try {
      this.stages(t, h);
    } catch (problem) {
      if (mustSucceed || !this.isDomainError(problem)) throw problem;
      return domainError;
    }
    const { absolute, errors, relative, trial, x } = this;
    let total = 0;
    for (let i = 0; i < x.length; i += 1) {
      const size = Math.max(Math.abs(x[i] as number), Math.abs(trial[i] as number));
      const scale = (absolute[i] as number) + (relative[i] as number) * size;
      errors[i] = (errors[i] as number) / scale;
      total += (errors[i] as number) ** 2;
    }
    return x.length === 0 ? 0 : Math.sqrt(total / x.length);
  }

  private worstState(): number {
    return this.errors.reduce(
      (worst, error, state) => (Math.abs(error) > Math.abs(this.errors[worst] as number) || Number.isNaN(error) ? state : worst),
      0,
    );
  }

  /** Starting step after Hairer, Nørsett, Wanner, section II.4. */
  private firstStep(t: number, longest: number, slope: Float64Array): number {
    const { absolute, relative, x } = this;
    const size = x.length;
    const norm = (v: Float64Array): number => {
      let total = 0;
      for (let i = 0; i < size; i += 1) {
        total += ((v[i] as number) / ((absolute[i] as number) + (relative[i] as number) * Math.abs(x[i] as number))) ** 2;
      }
      return Math.sqrt(total / Math.max(1, size));
    };
    const [d0, d1] = [norm(x), norm(slope)];
    const h0 = Math.min(longest, d0 < 1e-5 || d1 < 1e-5 ? 1e-6 : (0.01 * d0) / d1);
    for (let i = 0; i < size; i += 1) this.trial[i] = (x[i] as number) + h0 * (slope[i] as number);
    const later = new Float64Array(size);
    try {
      this.evaluate(t + h0, this.trial, later);
    } catch (problem) {
      if (!this.isDomainError(problem)) throw problem;
      return h0;
    }
    for (let i = 0; i < size; i += 1) later[i] = (later[i] as number) - (slope[i] as number);
    const d2 = norm(later) / h0;
    const steepest = Math.max(d1, d2);
    const h1 = steepest <= 1e-15 ? Math.max(1e-6, h0 * 1e-3) : numeric.pow(0.01 / steepest, this.rule.exponent);
    return Math.min(100 * h0, h1, longest);
  }
}
