export { dormandPrince } from './dormandPrince';
export { type RunOutcome, simulate } from './executive';
export type { Experiment, Implausible, InputChange, RunError, ScriptStep } from './types';
