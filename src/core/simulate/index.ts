export { type RunOutcome, simulate } from './executive';
export { recycleTrace } from './recorder';
export { bogackiShampine, dormandPrince, type Effort } from './solvers';
export type { Clipped, Experiment, Implausible, RunError, ScriptStep } from './types';
