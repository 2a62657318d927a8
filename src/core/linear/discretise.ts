import { inverse, Matrix } from 'ml-matrix';
import type { LinearSystem } from './linearise';
import { held } from './response';

/** Coefficients of a rational function, the highest power first. */
export interface TransferFunction {
  readonly numerator: readonly number[];
  readonly denominator: readonly number[];
}

/**
 * A system sampled with a period (s): `hold` keeps the input between samples, which is what a controller's output does; `tustin` takes the trapezoidal rule, s = 2/T (z − 1)/(z + 1)
 * (Åström and Wittenmark, Computer-Controlled Systems; Ogata, Discrete-Time Control Systems).
 */
export function sampled(system: LinearSystem, period: number, method: 'hold' | 'tustin'): LinearSystem {
  if (system.a.rows === 0) return system;
  if (method === 'hold') {
    const { ad, bd } = held(system, period);
    return { ...system, a: ad, b: bd };
  }
  const { a, b, c, d } = system;
  const half = Matrix.mul(a, period / 2);
  const left = inverse(Matrix.sub(Matrix.eye(a.rows), half));
  const ad = left.mmul(Matrix.add(Matrix.eye(a.rows), half));
  const bd = left.mmul(b).mul(period);
  const cd = c.mmul(left);
  return { a: ad, b: bd, c: cd, d: Matrix.add(d, cd.mmul(b).mul(period / 2)) };
}

/** A transfer function of s as one of z. @throws RangeError for one with more zeros than poles, or no period */
export function discretised(of: TransferFunction, period: number, method: 'hold' | 'tustin'): TransferFunction {
  if (!(period > 0)) throw new RangeError('the period must be above 0');
  return transferFunctionOf(sampled(systemOf(of), period, method));
}

/** The controllable canonical form. */
export function systemOf({ numerator, denominator }: TransferFunction): LinearSystem {
  const [leading = 0, ...rest] = withoutZeros(denominator);
  const above = withoutZeros(numerator);
  const n = rest.length;
  if (leading === 0) throw new RangeError('the denominator is 0');
  if (above.length > n + 1) throw new RangeError('a transfer function with more zeros than poles cannot be realised');
  const poles = rest.map((value) => value / leading);
  const zeros = [...new Array<number>(n + 1 - above.length).fill(0), ...above].map((value) => value / leading);
  const direct = zeros[0] ?? 0;
  const a = Matrix.zeros(n, n);
  const [b, c] = [Matrix.zeros(n, 1), Matrix.zeros(1, n)];
  for (let index = 0; index < n; index += 1) {
    a.set(0, index, -(poles[index] ?? 0));
    if (index > 0) a.set(index, index - 1, 1);
    c.set(0, index, (zeros[index + 1] ?? 0) - direct * (poles[index] ?? 0));
  }
  if (n > 0) b.set(0, 0, 1);
  return { a, b, c, d: new Matrix([[direct]]) };
}

/** By Faddeev and Leverrier's recursion, for the orders met here. */
export function transferFunctionOf({ a, b, c, d }: LinearSystem, input = 0, output = 0): TransferFunction {
  const n = a.rows;
  const direct = d.get(output, input);
  if (n === 0) return { numerator: [direct], denominator: [1] };
  const denominator = [1];
  const numerator = [direct];
  let m = Matrix.eye(n);
  const [column, row] = [b.subMatrixColumn([input], 0, n - 1), c.subMatrixRow([output], 0, n - 1)];
  for (let k = 1; k <= n; k += 1) {
    const product = a.mmul(m);
    const coefficient = -product.trace() / k;
    numerator.push(direct * coefficient + row.mmul(m).mmul(column).get(0, 0));
    denominator.push(coefficient);
    m = product.add(Matrix.eye(n).mul(coefficient));
  }
  return { numerator: withoutDust(numerator), denominator: withoutDust(denominator) };
}

/** What rounding leaves of a coefficient that is 0. */
function withoutDust(coefficients: readonly number[]): number[] {
  const most = Math.max(...coefficients.map(Math.abs));
  return coefficients.map((value) => (Math.abs(value) < 1e-11 * most ? 0 : value));
}

function withoutZeros(coefficients: readonly number[]): readonly number[] {
  const first = coefficients.findIndex((value) => value !== 0);
  return first < 0 ? [] : coefficients.slice(first);
}
