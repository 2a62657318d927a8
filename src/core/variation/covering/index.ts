import { Recent } from '@/core/memory';
import { Stream, seedOfStream } from '@/core/numeric';
import { algebraic } from './fields';
import { greedyArray, open, type Rule } from './greedy';
import { tightened } from './tighten';

export type { Rule } from './greedy';

/** Arrays are asked for again with every change of a document that leaves their levels as they were. */
const known = new Recent<number[][]>(2_000_000);

/**
 * A covering array: rows of level indices in which every combination of levels of any `strength` columns occurs that the rules allow. Of pairs, where nothing is ruled out, the smallest of what
 * algebra and a greedy search give is made smaller as far as that goes in a bounded time.
 * @param levels how many levels each column has
 */
export function coveringArray(levels: readonly number[], strength: number, seed = 0, rules: readonly Rule[] = []): number[][] {
  if (strength < 1 || strength > levels.length) throw new RangeError('the strength is at least 1 and at most the number of quantities');
  const stream = new Stream(seedOfStream(seed, 0));
  if (strength !== 2 || rules.length > 0) return greedyArray(levels, strength, stream, [], rules);
  const key = JSON.stringify([levels, seed]);
  const found = known.get(key) ?? smallestOfPairs(levels, stream);
  known.set(key, found);
  return found;
}

function smallestOfPairs(levels: readonly number[], stream: Stream): number[][] {
  // Those with most levels come first: algebra makes some columns, as many of them as need most.
  const order = levels.map((_, column) => column).sort((a, b) => (levels[b] as number) - (levels[a] as number));
  const sorted = order.map((column) => levels[column] as number);
  const starts = [[], ...algebraic(sorted[0] ?? 1).map((rows) => rows.map((row) => sorted.map((_, column) => row[column] ?? open)))];
  const arrays = starts.map((start) => greedyArray(sorted, 2, stream, start));
  const least = Math.min(...arrays.map((array) => array.length));
  const best = tightened(arrays.find((array) => array.length === least) ?? [], sorted, stream);
  return best.map((row) => levels.map((_, column) => row[order.indexOf(column)] as number));
}
