import { type StepRule, VariableStep } from './control';
import type { Pair } from './pairs';
import type { Derivative, Tolerances } from './types';

/** The bounds and the share of PI control of the book's driver for the 5(4) pair. */
export function stepRule({ order }: Pair): StepRule {
  return { exponent: 1 / order, beta: 0.2 / order, safety: 0.9, shrink: 0.2, grow: 10 };
}

/** An explicit Runge–Kutta pair of variable step; the first stage of an interval is computed anew, that of each further step is the last of the one before. */
export class ExplicitPair extends VariableStep {
  private readonly k: Float64Array[];

  constructor(
    size: number,
    f: Derivative,
    tolerances: Tolerances,
    isDomainError: (problem: unknown) => boolean,
    private readonly pair: Pair,
  ) {
    super(size, f, tolerances, isDomainError, stepRule(pair));
    this.k = pair.c.map(() => new Float64Array(size));
  }

  protected begin(t: number): Float64Array {
    const slope = this.k[0] as Float64Array;
    this.evaluate(t, this.x, slope);
    return slope;
  }

  protected taken(): void {
    const last = this.k.length - 1;
    [this.k[0], this.k[last]] = [this.k[last] as Float64Array, this.k[0] as Float64Array];
  }

  protected stages(t: number, h: number): void {
    const { c, a, b, lower } = this.pair;
    const { x, trial, k, errors } = this;
    for (let stage = 1; stage < c.length; stage += 1) {
      const row = a[stage] as readonly number[];
      for (let i = 0; i < x.length; i += 1) {
        let sum = 0;
        for (let j = 0; j < stage; j += 1) sum += (row[j] as number) * (k[j]?.[i] as number);
        trial[i] = (x[i] as number) + h * sum;
      }
      this.evaluate(t + (c[stage] as number) * h, trial, k[stage] as Float64Array);
    }
    for (let i = 0; i < x.length; i += 1) {
      let error = 0;
      for (let stage = 0; stage < c.length; stage += 1) error += ((b[stage] as number) - (lower[stage] as number)) * (k[stage]?.[i] as number);
      errors[i] = h * error;
    }
  }

  inside(t: number, into: Float64Array): void {
    const h = this.lastStep;
    const s = (t - this.lastFrom) / h;
    const { dense = [] } = this.pair;
    const k = this.k as Float64Array[];
    const last = k.length - 1;
    for (let i = 0; i < into.length; i += 1) {
      const y0 = this.start[i] as number;
      const difference = (this.x[i] as number) - y0;
      const third = h * (k[0]?.[i] as number) - difference;
      const fourth = difference - h * (k[last]?.[i] as number) - third;
      let fifth = 0;
      for (let stage = 0; stage < dense.length; stage += 1) fifth += (dense[stage] as number) * (k[stage]?.[i] as number);
      into[i] = y0 + s * (difference + (1 - s) * (third + s * (fourth + (1 - s) * h * fifth)));
    }
  }
}
