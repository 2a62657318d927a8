/** So many of the ascending instants lie at or before `t`. */
export function countUntil(instants: readonly number[], t: number): number {
  let [low, high] = [0, instants.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((instants[middle] as number) <= t) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** First of the ascending instants after `t`; infinite when none is. */
export function firstAfter(instants: readonly number[], t: number): number {
  return instants[countUntil(instants, t)] ?? Number.POSITIVE_INFINITY;
}
