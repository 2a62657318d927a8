export { type RunOutcome, simulate } from './executive';
export { type HandAction, LiveRun } from './live';
export { recycleTrace } from './recorder';
export { bogackiShampine, dormandPrince, type Effort } from './solvers';
export type { Clipped, Experiment, HandEvent, Implausible, RunError, ScriptStep } from './types';
