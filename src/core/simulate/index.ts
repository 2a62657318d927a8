export { dormandPrince } from './dormandPrince';
export { type RunOutcome, simulate } from './executive';
export { recycleTrace } from './recorder';
export type { Clipped, Experiment, Implausible, RunError, ScriptStep } from './types';
