import type { Move } from './moves';

/** A case that was found, and what its run shows. */
export interface Candidate {
  readonly moves: readonly Move[];
  readonly stopNs: number;
  readonly reached: ReadonlySet<string>;
  /** Instants at which something happened in the logic (ns). */
  readonly events: readonly number[];
}
