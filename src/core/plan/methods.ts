/** Methods of fixed step, which are emitted with the plan, and of variable step. */
export const fixedMethods = ['euler', 'heun', 'runge-kutta-4'] as const;
export const variableMethods = ['bogacki-shampine-32', 'dormand-prince-54', 'rosenbrock-43'] as const;
export type FixedMethod = (typeof fixedMethods)[number];
export type SolverMethod = FixedMethod | (typeof variableMethods)[number];

export function isFixed(method: SolverMethod): method is FixedMethod {
  return (fixedMethods as readonly string[]).includes(method);
}
