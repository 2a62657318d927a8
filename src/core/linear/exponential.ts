import { Matrix, solve } from 'ml-matrix';

/** Degree of the approximation, and the norm up to which it is as precise as the numbers (Higham 2005, table 2.3). */
const [degree, largestNorm] = [8, 1.5];

/** Matrix exponential by a diagonal Padé approximation with scaling and squaring (Golub and Van Loan, Matrix Computations, algorithm 11.3.1). */
export function exponential(a: Matrix): Matrix {
  const n = a.rows;
  const norm = Math.max(0, ...Array.from({ length: n }, (_, row) => a.getRow(row).reduce((sum, value) => sum + Math.abs(value), 0)));
  const squarings = Math.max(0, Math.ceil(Math.log2(norm / largestNorm)));
  const scaled = Matrix.mul(a, 2 ** -squarings);
  const [above, below] = [Matrix.eye(n), Matrix.eye(n)];
  let power = Matrix.eye(n);
  let factor = 1;
  for (let k = 1; k <= degree; k += 1) {
    factor *= (degree - k + 1) / (k * (2 * degree - k + 1));
    power = scaled.mmul(power);
    above.add(Matrix.mul(power, factor));
    below.add(Matrix.mul(power, k % 2 === 0 ? factor : -factor));
  }
  let result = solve(below, above);
  for (let i = 0; i < squarings; i += 1) result = result.mmul(result);
  return result;
}
