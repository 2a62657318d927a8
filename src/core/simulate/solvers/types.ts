import type { StateTolerance } from '@/core/plan';

export type Derivative = (t: number, x: Float64Array, dx: Float64Array) => void;

export interface Tolerances {
  readonly relative: number;
  readonly absolute: number;
  /** States held to tolerances of their own, by their index. */
  readonly ofStates?: readonly StateTolerance[];
  /** Seconds. */
  readonly largestStep: number;
}

/** What an integration has cost so far. */
export interface Effort {
  accepted: number;
  rejected: number;
  /** Of the right-hand side, those for a numerical Jacobian included. */
  evaluations: number;
}

/** A method of variable step. Its step size lives on from one interval to the next. */
export interface Integrator {
  readonly x: Float64Array;
  readonly effort: Effort;
  /**
   * Integrates `x` from `from` to `until` (seconds), calling `accepted` at the end of each accepted step; when that gives TRUE, it ends there.
   * @throws whatever the right-hand side throws at an accepted point or at the smallest step
   * @throws StepCollapse when the step becomes too small
   */
  integrate(from: number, until: number, accepted: (t: number) => boolean): void;
  /** State inside the step accepted last, by dense output. Only valid within `accepted`. */
  inside(t: number, into: Float64Array): void;
}

/** The step has become too small to go on; `state` is the index of the one whose error asked for it. */
export class StepCollapse extends RangeError {
  constructor(readonly state: number) {
    super('the step became too small: the equations are too stiff or jump here');
  }
}
