import type { Move } from './moves';
import type { Stay } from './waits';

/** A case that was found, and what its run shows. */
export interface Candidate {
  readonly moves: readonly Move[];
  readonly stopNs: number;
  readonly reached: ReadonlySet<string>;
  /** When it was in which state, where moves may wait for it. */
  readonly stays: readonly Stay[];
  /** Instants at which something happened in the logic (ns). */
  readonly events: readonly number[];
}
