import { Matrix } from 'ml-matrix';
import { jacobian } from './jacobian';
import type { ContinuousPart } from './part';

/** dx/dt = A x + B u, y = C x + D u, about a point. */
export interface LinearSystem {
  readonly a: Matrix;
  readonly b: Matrix;
  readonly c: Matrix;
  readonly d: Matrix;
}

/** Linearises from some drives to some signals about a point; the other drives stand still. */
export function linearise(part: ContinuousPart, x: Float64Array, drives: readonly number[], signals: readonly number[]): LinearSystem {
  const slots = signals.map((index) => part.signals[index]?.slot ?? 0);
  const u = Float64Array.from(drives, (index) => part.drive(index));
  const driven = (values: Float64Array, work: () => Float64Array): Float64Array => {
    drives.forEach((index, at) => {
      part.setDrive(index, values[at] as number);
    });
    const found = work();
    drives.forEach((index, at) => {
      part.setDrive(index, u[at] as number);
    });
    return found;
  };
  const shaped = (matrix: Matrix, rows: number, columns: number): Matrix =>
    matrix.rows === rows && matrix.columns === columns ? matrix : Matrix.zeros(rows, columns);
  const [n, m, p] = [x.length, u.length, slots.length];
  return {
    a: shaped(
      jacobian((at) => part.f(at), x),
      n,
      n,
    ),
    b: shaped(
      jacobian((at) => driven(at, () => part.f(x)), u),
      n,
      m,
    ),
    c: shaped(
      jacobian((at) => part.g(at, slots), x),
      p,
      n,
    ),
    d: shaped(
      jacobian((at) => driven(at, () => part.g(x, slots)), u),
      p,
      m,
    ),
  };
}
