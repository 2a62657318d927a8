import type { Node } from '@/core/plan';
import { type Signals, scan } from '../truth/scan';

/** The instants (s) at which a condition has become TRUE in a trace, between its rows as well; the start does not count. */
export function risings(condition: Node, signals: Signals): number[] {
  const { time, point, span } = scan(condition, true, signals).timeline(false);
  return time.filter((_, index) => index > 0 && span[index - 1] === 0 && (point[index] === 1 || span[index] === 1));
}
