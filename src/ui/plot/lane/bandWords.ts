import { percent } from '@/core/wording';
import type { MixedBand } from '../reduce';

/** How much of a mixed band's time each value held, as `Cooling 38 %, Resting 62 %`; of a truth its TRUE alone. */
export function shareWords({ from, until, held }: MixedBand, nameOf: (value: number) => string | undefined): string {
  const named = [...held].flatMap(([value, seconds]) => {
    const name = nameOf(value);
    return name === undefined ? [] : [`${name} ${percent(seconds / (until - from))}`];
  });
  return named.join(', ');
}
