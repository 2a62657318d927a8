export { type RunOutcome, simulate } from './executive';
export { type HandAction, LiveRun } from './live';
export { Recorder, recycleTrace } from './recorder';
export { integratorOf } from './solvers';
export { bogackiShampine, dormandPrince } from './solvers/pairs';
export { Progress } from './solvers/progress';
export type { Derivative, Effort, Integrator } from './solvers/types';
export type { Clipped, Experiment, HandEvent, Implausible, RunError, ScriptStep } from './types';
