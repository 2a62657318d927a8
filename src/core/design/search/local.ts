import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import type { Stream } from '@/core/numeric';

/** Generations without anything better after which it is at an end. */
const patience = 8;

/**
 * Looks for the least value of a function of numbers between 0 and 1, near a point: draws points from a normal distribution that moves, turns and stretches itself towards what was better
 * (CMA-ES with its usual constants: N. Hansen, The CMA Evolution Strategy: A Tutorial, arXiv:1604.00772). Points beyond 0 and 1 are drawn back to them. Asked and told in turn.
 */
export class LocalSearch {
  private readonly size: number;
  private readonly lambda: number;
  private readonly weights: readonly number[];
  private readonly rates: Rates;
  private mean: number[];
  private sigma: number;
  private covariance: Matrix;
  private readonly path: { sigma: number[]; covariance: number[] };
  private generation = 0;
  private drawn: { readonly step: readonly number[]; readonly point: readonly number[]; value: number }[] = [];
  private least = Number.POSITIVE_INFINITY;
  private betterAt = 0;
  /** Axes of the distribution, and how far it reaches along each. */
  private axes: Matrix;
  private reaches: number[];

  /** @param spread standard deviation of the first points */
  constructor(
    start: readonly number[],
    spread: number,
    private readonly stream: Stream,
  ) {
    this.size = start.length;
    if (this.size === 0) throw new RangeError('there is nothing to search over');
    this.lambda = 4 + Math.floor(3 * Math.log(this.size));
    const parents = Math.floor(this.lambda / 2);
    const raw = Array.from({ length: parents }, (_, index) => Math.log((this.lambda + 1) / 2) - Math.log(index + 1));
    const sum = raw.reduce((a, b) => a + b, 0);
    this.weights = raw.map((one) => one / sum);
    this.rates = ratesOf(this.size, 1 / this.weights.reduce((a, b) => a + b * b, 0));
    this.mean = [...start];
    this.sigma = spread;
    this.covariance = Matrix.eye(this.size);
    this.path = { sigma: start.map(() => 0), covariance: start.map(() => 0) };
    this.axes = Matrix.eye(this.size);
    this.reaches = start.map(() => 1);
  }

  /** Nothing better was found for long, or the distribution has become a point. */
  get isOver(): boolean {
    return this.generation - this.betterAt > patience || this.sigma * Math.max(...this.reaches) < 1e-4;
  }

  /** The next point to be tried. */
  ask(): readonly number[] {
    const along = this.reaches.map((reach) => reach * this.normal());
    const step = this.mean.map((_, row) => along.reduce((sum, one, column) => sum + this.axes.get(row, column) * one, 0));
    const point = this.mean.map((one, index) => Math.min(1, Math.max(0, one + this.sigma * (step[index] as number))));
    this.drawn.push({ step, point, value: Number.POSITIVE_INFINITY });
    return point;
  }

  /** How good the point that was asked for last is: the less the better. */
  tell(value: number): void {
    const last = this.drawn[this.drawn.length - 1];
    if (last) last.value = value;
    if (this.drawn.length === this.lambda) this.adapt();
  }

  private adapt(): void {
    this.generation += 1;
    const best = [...this.drawn].sort((a, b) => a.value - b.value);
    const [first] = best;
    if (first && first.value < this.least) [this.least, this.betterAt] = [first.value, this.generation];
    this.drawn = [];
    // As the points were drawn back into the box, so are their steps.
    const steps = best.slice(0, this.weights.length).map(({ point }) => point.map((one, index) => (one - (this.mean[index] as number)) / this.sigma));
    const mean = this.mean.map((_, index) => this.weights.reduce((sum, weight, at) => sum + weight * (steps[at]?.[index] as number), 0));
    this.mean = this.mean.map((one, index) => one + this.sigma * (mean[index] as number));
    this.adaptPaths(mean);
    this.adaptCovariance(steps);
    const { cs, damping, expected } = this.rates;
    this.sigma = Math.min(1, this.sigma * Math.exp((cs / damping) * (norm(this.path.sigma) / expected - 1)));
    this.decompose();
  }

  private adaptPaths(mean: readonly number[]): void {
    const { cs, cc, mueff, expected } = this.rates;
    // The inverse root of the covariance, times the step of the mean.
    const inAxes = this.reaches.map((reach, column) => mean.reduce((sum, one, row) => sum + this.axes.get(row, column) * one, 0) / reach);
    const whitened = mean.map((_, row) => inAxes.reduce((sum, one, column) => sum + this.axes.get(row, column) * one, 0));
    this.path.sigma = this.path.sigma.map((one, index) => (1 - cs) * one + Math.sqrt(cs * (2 - cs) * mueff) * (whitened[index] as number));
    const isStalled = norm(this.path.sigma) / Math.sqrt(1 - (1 - cs) ** (2 * this.generation)) < (1.4 + 2 / (this.size + 1)) * expected;
    const push = isStalled ? Math.sqrt(cc * (2 - cc) * mueff) : 0;
    this.path.covariance = this.path.covariance.map((one, index) => (1 - cc) * one + push * (mean[index] as number));
  }

  private adaptCovariance(steps: readonly (readonly number[])[]): void {
    const { c1, cmu } = this.rates;
    for (let row = 0; row < this.size; row += 1)
      for (let column = 0; column <= row; column += 1) {
        const one = (this.path.covariance[row] as number) * (this.path.covariance[column] as number);
        const many = this.weights.reduce((sum, weight, at) => sum + weight * (steps[at]?.[row] as number) * (steps[at]?.[column] as number), 0);
        const next = (1 - c1 - cmu) * this.covariance.get(row, column) + c1 * one + cmu * many;
        this.covariance.set(row, column, next);
        this.covariance.set(column, row, next);
      }
  }

  private decompose(): void {
    const { eigenvectorMatrix, realEigenvalues } = new EigenvalueDecomposition(this.covariance, { assumeSymmetric: true });
    this.axes = eigenvectorMatrix;
    this.reaches = realEigenvalues.map((one) => Math.sqrt(Math.max(one, 1e-14)));
  }

  /** By G. E. P. Box and M. E. Muller, 1958. */
  private normal(): number {
    const radius = Math.sqrt(-2 * Math.log(this.stream.next()));
    return radius * Math.cos(2 * Math.PI * this.stream.next());
  }
}

interface Rates {
  readonly mueff: number;
  readonly cs: number;
  readonly damping: number;
  readonly cc: number;
  readonly c1: number;
  readonly cmu: number;
  /** Expected length of a normal vector. */
  readonly expected: number;
}

/** The constants of table 1 of the tutorial. */
function ratesOf(n: number, mueff: number): Rates {
  const cs = (mueff + 2) / (n + mueff + 5);
  const c1 = 2 / ((n + 1.3) ** 2 + mueff);
  return {
    mueff,
    cs,
    damping: 1 + 2 * Math.max(0, Math.sqrt((mueff - 1) / (n + 1)) - 1) + cs,
    cc: (4 + mueff / n) / (n + 4 + (2 * mueff) / n),
    c1,
    cmu: Math.min(1 - c1, (2 * (mueff - 2 + 1 / mueff)) / ((n + 2) ** 2 + mueff)),
    expected: Math.sqrt(n) * (1 - 1 / (4 * n) + 1 / (21 * n * n)),
  };
}

function norm(vector: readonly number[]): number {
  return Math.sqrt(vector.reduce((sum, one) => sum + one * one, 0));
}
