import normalCdf from '@stdlib/stats-base-dists-normal-cdf';
import normalQuantile from '@stdlib/stats-base-dists-normal-quantile';
import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import type { Level } from './quantity';

/** Two quantities that scatter together. */
export interface Correlation {
  /** Their numbers among the quantities. */
  readonly between: readonly [number, number];
  /** Correlation of their normal scores, −1 to 1; of two normal quantities it is that of themselves. */
  readonly by: number;
}

/** A condition that every point keeps to. */
export interface Rule {
  /** Numbers of the quantities it speaks of. */
  readonly columns: readonly number[];
  /** @param point values of the quantities; those that it speaks of are there */
  readonly allows: (point: readonly (Level | undefined)[]) => boolean;
}

/** What the points of a design keep to. */
export interface Restrictions {
  readonly correlations: readonly Correlation[];
  readonly rules: readonly Rule[];
}

export const unrestricted: Restrictions = { correlations: [], rules: [] };

export function allowedBy(rules: readonly Rule[], point: readonly Level[]): boolean {
  return rules.every((rule) => rule.allows(point));
}

function matrixOf(correlations: readonly Correlation[], dimensions: number): Matrix {
  const matrix = Matrix.eye(dimensions);
  for (const { between, by } of correlations) {
    const [a, b] = between;
    matrix.set(a, b, by);
    matrix.set(b, a, by);
  }
  return matrix;
}

/** Whether there are quantities that scatter so: A with B and B with C bounds A with C. */
export function canBe(correlations: readonly Correlation[], dimensions: number): boolean {
  return new CholeskyDecomposition(matrixOf(correlations, dimensions)).isPositiveDefinite();
}

/** The smallest share a number that is drawn stands for, so that its normal score is finite. */
const least = 2 ** -54;

/**
 * Points of the unit cube whose coordinates are each drawn evenly still, but go together (Gaussian copula, R. B. Nelsen 2006, An Introduction to Copulas, 2.3). A coordinate that goes with none before it
 * stays as it is.
 */
export function correlated(points: readonly Float64Array[], correlations: readonly Correlation[]): Float64Array[] {
  const dimensions = points[0]?.length ?? 0;
  if (correlations.length === 0 || dimensions === 0) return [...points];
  const lower = new CholeskyDecomposition(matrixOf(correlations, dimensions)).lowerTriangularMatrix;
  const score = (u: number): number => normalQuantile(Math.max(least, u), 0, 1);
  return points.map((point) =>
    point.map((u, row) => {
      const partners = Array.from({ length: row }, (_, column) => column).filter((column) => lower.get(row, column) !== 0);
      if (partners.length === 0) return u;
      const sum = partners.reduce((z, column) => z + lower.get(row, column) * score(point[column] as number), lower.get(row, row) * score(u));
      return Math.min(1 - least, normalCdf(sum, 0, 1));
    }),
  );
}
