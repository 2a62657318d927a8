export { Executive, type RunOutcome, simulate } from './executive';
export { type HandAction, LiveRun } from './live';
export { Recorder, recycleTrace } from './recorder';
export type { Derivative, Effort, Integrator, Pair } from './solvers';
export { bogackiShampine, dormandPrince, integratorOf, Progress, stepRule } from './solvers';
export type {
  BenchChannel,
  BenchTable,
  Clipped,
  EndCondition,
  Expectation,
  Experiment,
  HandEvent,
  Host,
  HostTable,
  Implausible,
  RunError,
  ScriptStep,
  Walk,
  WaveChange,
} from './types';
export { stimulated, waveAt, withWalksWritten } from './waves';
