import type { SolverMethod } from '@/core/plan';
import { ExplicitPair } from './explicitPair';
import { bogackiShampine, dormandPrince } from './pairs';
import { Rosenbrock } from './rosenbrock';
import type { Derivative, Integrator, Tolerances } from './types';

export { stepRule } from './explicitPair';
export { bogackiShampine, dormandPrince, type Pair } from './pairs';
export { Progress, type Sliding } from './progress';
export { type Derivative, type Effort, type Integrator, StepCollapse, type Tolerances } from './types';

/**
 * The integrator of a method of variable step.
 * @param isDomainError whether a failure of the right-hand side means that a trial step went too far, and may be tried shorter
 * @returns undefined for methods of fixed step, which are emitted
 */
export function integratorOf(
  method: SolverMethod,
  size: number,
  f: Derivative,
  tolerances: Tolerances,
  isDomainError: (problem: unknown) => boolean,
): Integrator | undefined {
  switch (method) {
    case 'dormand-prince-54':
      return new ExplicitPair(size, f, tolerances, isDomainError, dormandPrince);
    case 'bogacki-shampine-32':
      return new ExplicitPair(size, f, tolerances, isDomainError, bogackiShampine);
    case 'rosenbrock-43':
      return new Rosenbrock(size, f, tolerances, isDomainError);
    case 'euler':
    case 'heun':
    case 'runge-kutta-4':
      return undefined;
  }
}
