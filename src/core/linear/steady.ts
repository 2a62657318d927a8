import { Matrix, pseudoInverse } from 'ml-matrix';
import { jacobian } from './jacobian';
import type { ContinuousPart } from './part';

/** A point at which nothing changes, or how near to one the search came. */
export interface Steady {
  readonly x: Float64Array;
  readonly isSteady: boolean;
  /** The state that still changes most, and how fast. */
  readonly fastest: { readonly state: string; readonly perSecond: number };
}

const mostSteps = 60;
/** Change per second, in parts of the state's size, at which a state stands still. */
const still = 1e-9;

/**
 * Newton's method with halved steps, from a given point. Where the linearisation is singular (a tank whose level is free) the shortest step is taken, so that what the equations leave open stays as it was.
 */
export function steadyState(part: ContinuousPart, from: Float64Array = part.x0): Steady {
  let x = Float64Array.from(from);
  let slope: Float64Array = part.f(x);
  for (let step = 0; step < mostSteps && size(slope, x) > still; step += 1) {
    const a = jacobian((at) => part.f(at), x);
    const change = pseudoInverse(a)
      .mmul(Matrix.columnVector([...slope]))
      .to1DArray();
    let share = 1;
    let next = moved(x, change, share);
    while (share > 1e-6 && !(size(part.f(next), next) < size(slope, x))) {
      share /= 2;
      next = moved(x, change, share);
    }
    if (share <= 1e-6) break;
    x = next;
    slope = part.f(x);
  }
  const fastest = slope.reduce((best, value, index) => (Math.abs(value) > Math.abs(slope[best] ?? 0) ? index : best), 0);
  return { x, isSteady: size(slope, x) <= still, fastest: { state: part.states[fastest]?.name ?? '', perSecond: slope[fastest] ?? 0 } };
}

function moved(x: Float64Array, change: readonly number[], share: number): Float64Array<ArrayBuffer> {
  return Float64Array.from(x, (value, index) => value - share * (change[index] ?? 0));
}

function size(slope: Float64Array, x: Float64Array): number {
  return Math.max(0, ...Array.from(slope, (value, index) => Math.abs(value) / Math.max(1, Math.abs(x[index] as number))));
}
