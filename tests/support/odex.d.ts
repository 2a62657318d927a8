/** The part of the extrapolation library that the tests use; its own sources do not pass our checks. */
export class Solver {
  constructor(size: number);
  solve(f: (t: number, x: number[]) => number[], from: number, start: number[], until: number): { y: number[] };
}
