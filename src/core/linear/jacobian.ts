import { Matrix } from 'ml-matrix';

/** Cube root of the machine's precision: the step at which truncation and rounding of a central difference balance. */
const relativeStep = 6e-6;

/** Matrix of partial derivatives by central differences, a row for each value and a column for each variable. */
export function jacobian(f: (x: Float64Array) => Float64Array, x: Float64Array): Matrix {
  const columns = Array.from(x, (value, index) => {
    const h = relativeStep * Math.max(1, Math.abs(value));
    const [high, low] = [Float64Array.from(x), Float64Array.from(x)];
    high[index] = value + h;
    low[index] = value - h;
    const [above, below] = [f(high), f(low)];
    const width = (high[index] as number) - (low[index] as number);
    return Array.from(above, (one, row) => (one - (below[row] as number)) / width);
  });
  const rows = columns[0]?.length ?? 0;
  return new Matrix(Array.from({ length: rows }, (_, row) => columns.map((column) => column[row] ?? 0)));
}
