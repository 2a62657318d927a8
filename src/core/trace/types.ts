import type { ValueType } from '@/core/plan';

/**
 * How a column runs between its samples: `held` keeps each value until the next sample (right-continuous), `straight` joins them.
 * Two samples of equal time are the values before and after a jump.
 */
export type Between = 'held' | 'straight';

export interface Column {
  readonly name: string;
  readonly slot: number;
  /** Index of the time base in `Trace.bases`. */
  readonly base: number;
  readonly between: Between;
  readonly type: ValueType;
  readonly unit: string;
  readonly min?: number;
  readonly max?: number;
  /** Names of the values 0, 1, …: of an enumeration, or of a chart's region, where 0 is no state and has no name. */
  readonly labels?: readonly string[];
  readonly data: Float64Array;
}

/** A state of a chart entered or left, also when both happen within one hit. */
export interface Marks {
  /** Seconds. */
  readonly time: Float64Array;
  readonly mark: Int32Array;
  /** 1 entered, 0 left. */
  readonly entered: Uint8Array;
}

/** What a run leaves behind: columns over shared time bases (seconds), never objects per sample. */
export interface Trace {
  readonly bases: readonly Float64Array[];
  readonly columns: readonly Column[];
  readonly marks: Marks;
  /** First and last instant, seconds. */
  readonly from: number;
  readonly until: number;
}
