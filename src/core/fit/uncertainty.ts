import { EigenvalueDecomposition, Matrix } from 'ml-matrix';

/** How well parameters are known after a fit. */
export interface Uncertainty {
  /** Half of each 95 % interval, in the unit of the parameters; undefined where the rows do not determine it. */
  readonly halves: readonly (number | undefined)[];
  /** Pairs, by index, that the rows hardly tell apart: how they go together, −1 … 1. */
  readonly entangled: readonly { readonly a: number; readonly b: number; readonly correlation: number }[];
}

/** Beyond this two parameters are one. */
const muchCorrelated = 0.98;
/** A direction in which the residuals move less than this, of the one in which they move most, they do not move at all: so small are the errors of differences. */
const still = 1e-12;
/** From this share on a parameter takes part in a direction. */
const takesPart = 1e-4;

/**
 * Uncertainty of parameters in the linear model at the solution: s² (JᵀJ)⁻¹ with Student's t (Draper and Smith, Applied Regression Analysis). It is taken apart into directions (eigenvectors of JᵀJ with
 * columns of length 1), so that what cannot be determined takes nothing away from the others: a parameter that moves nothing, or several that only move the residuals together.
 * @param residuals what is left at each row
 * @param slopes for each parameter, how it moves each residual
 */
export function uncertainty(residuals: ArrayLike<number>, slopes: readonly (readonly number[])[]): Uncertainty {
  const lengths = slopes.map((column) => Math.sqrt(column.reduce((sum, value) => sum + value * value, 0)));
  const moving = slopes.flatMap((_, index) => ((lengths[index] as number) > 0 && Number.isFinite(lengths[index]) ? [index] : []));
  const freedom = residuals.length - slopes.length;
  const unknown = { halves: slopes.map(() => undefined), entangled: [] };
  if (moving.length === 0 || freedom <= 0) return unknown;
  const unit = moving.map((index) => (slopes[index] as readonly number[]).map((value) => value / (lengths[index] as number)));
  const { realEigenvalues, eigenvectorMatrix } = new EigenvalueDecomposition(gramOf(unit), { assumeSymmetric: true });
  const most = Math.max(...realEigenvalues);
  const directions = realEigenvalues.map((value, k) => ({
    value,
    along: (i: number) => eigenvectorMatrix.get(i, k),
    isStill: value <= still * most,
  }));
  const isLost = moving.map((_, i) => directions.some(({ isStill, along }) => isStill && Math.abs(along(i)) > takesPart));
  const covariance = (i: number, j: number): number =>
    directions.reduce((sum, { value, along, isStill }) => (isStill ? sum : sum + (along(i) * along(j)) / value), 0);
  let rest = 0;
  for (let row = 0; row < residuals.length; row += 1) rest += (residuals[row] as number) ** 2;
  const variance = rest / freedom;
  const halves: (number | undefined)[] = slopes.map(() => undefined);
  moving.forEach((index, i) => {
    if (!isLost[i]) halves[index] = (studentT(freedom) * Math.sqrt(variance * covariance(i, i))) / (lengths[index] as number);
  });
  const entangled = moving.flatMap((a, i) =>
    moving.slice(i + 1).flatMap((b, offset) => {
      const j = i + 1 + offset;
      const lost = directions.find(({ isStill, along }) => isStill && Math.abs(along(i)) > takesPart && Math.abs(along(j)) > takesPart);
      const correlation = lost
        ? Math.sign(lost.along(i) * lost.along(j))
        : isLost[i] || isLost[j]
          ? 0
          : covariance(i, j) / Math.sqrt(covariance(i, i) * covariance(j, j));
      return Math.abs(correlation) > muchCorrelated ? [{ a, b, correlation }] : [];
    }),
  );
  return { halves, entangled };
}

/** Products of all pairs of columns. */
function gramOf(columns: readonly (readonly number[])[]): Matrix {
  const product = (a: readonly number[], b: readonly number[]): number => a.reduce((sum, value, row) => sum + value * (b[row] as number), 0);
  return new Matrix(columns.map((a) => columns.map((b) => product(a, b))));
}

/** Two-sided 95 % point of Student's distribution, by the expansion about the normal one (Abramowitz and Stegun 26.7.5). */
function studentT(freedom: number): number {
  const z = 1.959963984540054;
  const [g1, g2, g3] = [(z ** 3 + z) / 4, (5 * z ** 5 + 16 * z ** 3 + 3 * z) / 96, (3 * z ** 7 + 19 * z ** 5 + 17 * z ** 3 - 15 * z) / 384];
  return z + g1 / freedom + g2 / freedom ** 2 + g3 / freedom ** 3;
}
