/** A set that may be taken, with what it costs. */
export interface Coverer {
  readonly holds: ReadonlySet<string>;
  /** Above 0. */
  readonly cost: number;
}

/** Sets that are looked at while something better is searched for; of large instances the best so far is kept. */
const mostLooks = 200_000;

/**
 * Sets that hold together all that any of them holds, at the least cost: greedy at first (V. Chvátal, A Greedy Heuristic for the Set-Covering Problem, 1979), then by branch and bound, which is exact
 * where it comes to its end: each step takes what fewest sets hold, and tries each of those.
 * @returns indices of the sets, in their order
 */
export function leastCover(sets: readonly Coverer[]): number[] {
  const all = new Set(sets.flatMap(({ holds }) => [...holds]));
  const holders = new Map([...all].map((one) => [one, sets.flatMap(({ holds }, index) => (holds.has(one) ? [index] : []))]));
  const costOf = (some: readonly number[]): number => some.reduce((sum, index) => sum + (sets[index]?.cost ?? 0), 0);
  let best: readonly number[] = greedy(sets, all);
  let least = costOf(best);
  let looks = 0;
  const search = (chosen: readonly number[], open: ReadonlySet<string>, cost: number): void => {
    looks += 1;
    if (open.size === 0) {
      if (cost < least) [best, least] = [chosen, cost];
      return;
    }
    if (looks > mostLooks || cost + boundOf(sets, open) >= least) return;
    const [rarest] = [...open].sort((a, b) => (holders.get(a)?.length ?? 0) - (holders.get(b)?.length ?? 0));
    const adds = (index: number): number => [...(sets[index]?.holds ?? [])].filter((one) => open.has(one)).length;
    const candidates = [...(holders.get(rarest ?? '') ?? [])].sort((a, b) => adds(b) - adds(a));
    for (const index of candidates) {
      const { holds, cost: own } = sets[index] as Coverer;
      search([...chosen, index], new Set([...open].filter((one) => !holds.has(one))), cost + own);
    }
  };
  search([], all, 0);
  return [...best].sort((a, b) => a - b);
}

function greedy(sets: readonly Coverer[], all: ReadonlySet<string>): number[] {
  const open = new Set(all);
  const chosen: number[] = [];
  while (open.size > 0) {
    const worth = ({ holds, cost }: Coverer): number => [...holds].filter((one) => open.has(one)).length / cost;
    const best = sets.reduce((a, one, index) => (worth(one) > worth(sets[a] as Coverer) ? index : a), 0);
    chosen.push(best);
    for (const one of sets[best]?.holds ?? []) open.delete(one);
  }
  return chosen;
}

/** What is left costs at least this: no set holds more of it for its cost than the best one does. */
function boundOf(sets: readonly Coverer[], open: ReadonlySet<string>): number {
  const best = Math.max(...sets.map(({ holds, cost }) => [...open].filter((one) => holds.has(one)).length / cost));
  return open.size / best;
}

/** The order in which most is covered soonest for what it costs: each next one adds most for its cost. */
export function quickestFirst(sets: readonly Coverer[], chosen: readonly number[]): number[] {
  const left = [...chosen];
  const held = new Set<string>();
  const order: number[] = [];
  while (left.length > 0) {
    const worth = (index: number): number => {
      const { holds, cost } = sets[index] as Coverer;
      return [...holds].filter((one) => !held.has(one)).length / cost;
    };
    const next = left.reduce((a, b) => (worth(b) > worth(a) ? b : a));
    left.splice(left.indexOf(next), 1);
    order.push(next);
    for (const one of sets[next]?.holds ?? []) held.add(one);
  }
  return order;
}
