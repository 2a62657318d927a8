import type { Nameable } from '@/core/project';
import type { Scalar } from '@/core/shapes';

/** What a step gives a signal until a person chooses: TRUE, the first of its names, or 0. */
export function firstValue({ isTruth, labels }: Nameable): Scalar {
  return labels?.[0] ?? (isTruth ? true : 0);
}
