import type { FloatWidth } from './plannedBuild';

/** Something the compiler wonders about, with the place in the model whose code it is. */
export interface CompilerWarning {
  readonly text: string;
  /** Where it stands in the C (`plan.c:12`). */
  readonly source: string;
  readonly place?: { readonly file: string; readonly line: number; readonly column: number; readonly text: string };
}

/** What is kept of a build beside its library. */
export interface BuildRecord {
  readonly components: readonly string[];
  readonly width: FloatWidth;
  /** SHA-256 of the model it was made of, and of all that the code depends on but the compiler. */
  readonly model: string;
  readonly fingerprint: string;
  readonly compiler: string;
  readonly flags: readonly string[];
  /** When it was made, as in ISO 8601. */
  readonly made: string;
  /** Size of the library (bytes), and its SHA-256. */
  readonly size: number;
  readonly hash: string;
  readonly warnings: readonly CompilerWarning[];
  /** All that the compiler said. */
  readonly log: string;
}
