import type { CaseDocument } from '@/core/documents';
import type { Experiment } from '@/core/simulate';

/** A case bound to its loop: the experiment that a run of it makes. */
export interface CheckedCase {
  readonly document: CaseDocument;
  readonly experiment: Experiment;
  /** `nameKey` of its loop. */
  readonly loop: string;
  /** How long a run of it may take, by the clock on the wall (s). */
  readonly limitSeconds: number;
}
