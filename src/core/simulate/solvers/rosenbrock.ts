import { LuDecomposition, Matrix } from 'ml-matrix';
import { VariableStep } from './control';
import type { Derivative, Tolerances } from './types';

/**
 * Coefficients of the stiffly accurate Rosenbrock method of order 4(3) with six stages and dense output of order 3
 * (Hairer and Wanner, Solving Ordinary Differential Equations II, section IV.7). From memory; tests/outside/solvers.test.ts holds them against the order they must have.
 */
const a = [
  [],
  [1.544],
  [0.9466785280815826, 0.2557011698983284],
  [3.314825187068521, 2.896124015972201, 0.9986419139977817],
  [1.221224509226641, 6.019134481288629, 12.53708332932087, -0.687886036105895],
];
const c = [
  [],
  [-5.6688],
  [-2.430093356833875, -0.2063599157091915],
  [-0.1073529058151375, -9.594562251023355, -20.47028614809616],
  [7.496443313967647, -10.24680431464352, -33.99990352819905, 11.7089089320616],
  [8.083246795921522, -7.981132988064893, -31.52159432874371, 16.31930543123136, -6.058818238834054],
];
const gamma = 0.25;
/** Of the derivative by time, and the instants of the stages. */
const d = [0.25, -0.1043, 0.1035, -0.0362, 0, 0];
const at = [0, 0.386, 0.21, 0.63, 1, 1];
const dense = [
  [10.12623508344586, -7.487995877610167, -34.80091861555747, -7.992771707568823, 1.025137723295662],
  [-0.6762803392801253, 6.087714651680015, 16.43084320892478, 24.76722511418386, -6.594389125716872],
];
const stages = 6;

/** For stiff equations: linearly implicit, with a Jacobian by differences and one factorisation (library) for each trial step. */
export class Rosenbrock extends VariableStep {
  private readonly slope: Float64Array;
  private readonly k: Float64Array[];
  private readonly work: Float64Array;
  private readonly jacobian: Matrix;
  private readonly byTime: Float64Array;
  private readonly bent: Float64Array;
  /** Where the Jacobian was formed; a rejected step keeps it. */
  private formedAt = Number.NaN;

  constructor(size: number, f: Derivative, tolerances: Tolerances, isDomainError: (problem: unknown) => boolean) {
    super(size, f, tolerances, isDomainError, { exponent: 0.25, beta: 0, safety: 0.9, shrink: 0.2, grow: 6 });
    const vector = (): Float64Array => new Float64Array(size);
    [this.slope, this.work, this.byTime, this.bent] = [vector(), vector(), vector(), vector()];
    this.k = Array.from({ length: stages }, vector);
    this.jacobian = Matrix.zeros(size, size);
  }

  protected begin(t: number): Float64Array {
    this.evaluate(t, this.x, this.slope);
    this.formedAt = Number.NaN;
    return this.slope;
  }

  protected taken(): void {
    this.evaluate(this.lastFrom + this.lastStep, this.x, this.slope);
    this.formedAt = Number.NaN;
  }

  protected stages(t: number, h: number): void {
    const { x, trial, work, k, errors, byTime } = this;
    const size = x.length;
    if (this.formedAt !== t) this.form(t, h);
    const left = Matrix.zeros(size, size);
    for (let i = 0; i < size; i += 1) for (let j = 0; j < size; j += 1) left.set(i, j, (i === j ? 1 / (h * gamma) : 0) - this.jacobian.get(i, j));
    const factors = new LuDecomposition(left);
    for (let stage = 0; stage < stages; stage += 1) {
      // The last two stages stand on the one before, and give the lower solution and the error.
      if (stage < 5) for (let i = 0; i < size; i += 1) trial[i] = (x[i] as number) + combined(a[stage] as number[], k, i);
      else for (let i = 0; i < size; i += 1) trial[i] = (trial[i] as number) + (k[4]?.[i] as number);
      if (stage === 0) work.set(this.slope);
      else this.evaluate(t + (at[stage] as number) * h, trial, work);
      for (let i = 0; i < size; i += 1)
        work[i] = (work[i] as number) + combined(c[stage] as number[], k, i) / h + h * (d[stage] as number) * (byTime[i] as number);
      const solved = factors.solve(Matrix.columnVector(work));
      for (let i = 0; i < size; i += 1) (k[stage] as Float64Array)[i] = solved.get(i, 0);
    }
    for (let i = 0; i < size; i += 1) {
      const error = k[5]?.[i] as number;
      trial[i] = (trial[i] as number) + error;
      errors[i] = error;
    }
  }

  /** The Jacobian and the derivative by time, by differences. */
  private form(t: number, h: number): void {
    const { x, slope, bent, work } = this;
    for (let j = 0; j < x.length; j += 1) {
      const value = x[j] as number;
      const shift = Math.sqrt(Number.EPSILON * Math.max(1e-5, Math.abs(value)));
      work.set(x);
      work[j] = value + shift;
      this.evaluate(t, work, bent);
      const given = (work[j] as number) - value;
      for (let i = 0; i < x.length; i += 1) this.jacobian.set(i, j, ((bent[i] as number) - (slope[i] as number)) / given);
    }
    const shift = Math.max(1e-8 * Math.abs(t), 1e-6 * h);
    this.evaluate(t + shift, x, bent);
    for (let i = 0; i < x.length; i += 1) this.byTime[i] = ((bent[i] as number) - (slope[i] as number)) / shift;
    this.formedAt = t;
  }

  inside(t: number, into: Float64Array): void {
    const s = (t - this.lastFrom) / this.lastStep;
    const [second, third] = dense as [number[], number[]];
    for (let i = 0; i < into.length; i += 1) {
      const bend = combined(second, this.k, i) + s * combined(third, this.k, i);
      into[i] = (this.start[i] as number) * (1 - s) + s * ((this.x[i] as number) + (1 - s) * bend);
    }
  }
}

function combined(weights: readonly number[], k: readonly Float64Array[], i: number): number {
  let sum = 0;
  for (let j = 0; j < weights.length; j += 1) sum += (weights[j] as number) * (k[j]?.[i] as number);
  return sum;
}
