import { Matrix } from 'ml-matrix';
import type { LinearSystem } from './linearise';

/**
 * The states that the input reaches and that reach the output, by the pattern of the matrices: the others are poles that this input and this output never see,
 * and would stand above and below the line of a transfer function alike.
 */
export function relevantPart({ a, b, c, d }: LinearSystem, input = 0, output = 0): LinearSystem {
  const states = Array.from({ length: a.rows }, (_, index) => index);
  const driven = closure(
    states.filter((row) => b.get(row, input) !== 0),
    (from) => states.filter((row) => a.get(row, from) !== 0),
  );
  const seen = closure(
    states.filter((column) => c.get(output, column) !== 0),
    (to) => states.filter((column) => a.get(to, column) !== 0),
  );
  const kept = states.filter((state) => driven.has(state) && seen.has(state));
  const picked = (rows: number, columns: number, value: (row: number, column: number) => number): Matrix => {
    const matrix = Matrix.zeros(rows, columns);
    for (let row = 0; row < rows; row += 1) for (let column = 0; column < columns; column += 1) matrix.set(row, column, value(row, column));
    return matrix;
  };
  const at = (index: number): number => kept[index] ?? 0;
  return {
    a: picked(kept.length, kept.length, (row, column) => a.get(at(row), at(column))),
    b: picked(kept.length, 1, (row) => b.get(at(row), input)),
    c: picked(1, kept.length, (_, column) => c.get(output, at(column))),
    d: new Matrix([[d.get(output, input)]]),
  };
}

function closure(from: readonly number[], next: (state: number) => readonly number[]): ReadonlySet<number> {
  const found = new Set(from);
  for (const state of found) for (const one of next(state)) found.add(one);
  return found;
}
