/** What tells sure readings from doubtful ones. */
export interface Signs {
  /** How well the words fit the terms, 0 to 1. */
  readonly score: number;
  /** Words of content left over. */
  readonly left: number;
  /** Readings of the same part. */
  readonly alternatives: number;
  /** Things supposed beyond the words. */
  readonly supposed: number;
}

/** A figure without meaning of its own that grows with sureness. */
function sureness({ score, left, alternatives, supposed }: Signs): number {
  return Math.max(0, score) * 0.75 ** left * (alternatives > 1 ? 0.75 : 1) * 0.95 ** supposed;
}

/** From here on a reading is shown without a doubt beside it. */
export const sureFrom = 0.96;

/**
 * Share of proposals of the same sureness that were right on the tuning split of the labelled sentences: pool adjacent violators
 * (Ayer et al. 1955), with Laplace's rule where all were right; docs/reading.md has the counts.
 */
const steps: readonly (readonly [from: number, share: number])[] = [
  [0, 0.7],
  [0.4, 0.84],
  [0.7, 0.95],
  [0.8, 0.98],
];

/** The confidence that is shown for a proposal with these signs. */
export function calibrated(signs: Signs): number {
  const sure = sureness(signs);
  return steps.findLast(([from]) => from <= sure)?.[1] ?? 0;
}
