import type { SlotNumber } from '@/core/plan';
import type { Experiment } from '@/core/simulate';
import type { Trace } from '@/core/trace';

/** A parameter to be found, with the bounds it must stay in. */
export interface FitParameter {
  readonly name: string;
  readonly unit: string;
  readonly slot: SlotNumber;
  readonly start: number;
  readonly min: number;
  readonly max: number;
}

export interface FitQuestion {
  /** The case whose parameters and start values count; recorded inputs replace its stimuli. */
  readonly experiment: Experiment;
  readonly recording: Trace;
  /** Names of recorded signals to be met. */
  readonly signals: readonly string[];
  readonly parameters: readonly FitParameter[];
  /** Another recording, which the fit does not see. */
  readonly holdOut?: Trace;
}
