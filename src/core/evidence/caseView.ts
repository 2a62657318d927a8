import type { ScriptLine } from '@/core/cases';
import type { Verdict } from '@/core/criteria';

/** A free input's course in a case, as straight pieces: [seconds, value], two points of equal time at a jump. */
export interface StimulusCourse {
  readonly name: string;
  readonly type: string;
  readonly unit: string;
  readonly points: readonly (readonly [number, number])[];
}

/** A case with its stimuli ready to be drawn and what its newest run found. */
export interface CaseView {
  readonly name: string;
  readonly about: string;
  readonly stopSeconds: number;
  readonly courses: readonly StimulusCourse[];
  readonly script: readonly ScriptLine[];
  readonly changes: readonly string[];
  readonly meantFor: readonly string[];
  readonly run?: {
    readonly id: number;
    readonly verdict: Verdict;
    readonly isCurrent: boolean;
    readonly elapsedMs: number;
    readonly discounted?: string;
  };
}

/** The cases whose newest run triggers a criterion. */
export interface CriterionTriggers {
  readonly requirement: string;
  readonly criterion: string;
  readonly cases: readonly string[];
}

/** What the newest runs of the cases of a project trigger. */
export interface TriggeredByCases {
  readonly criteria: readonly CriterionTriggers[];
  /** Names of the cases that have been run; of others nothing is known. */
  readonly ran: readonly string[];
}
