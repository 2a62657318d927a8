import { decidedId, type Goal } from './goals/goals';
import type { Candidate } from './search/candidate';
import { type Move, roundTime } from './search/moves';
import type { Search } from './search/search';

/** A case that was found and made small. */
export interface DerivedCase {
  readonly moves: readonly Move[];
  readonly stopNs: number;
  /** The goals it is there for: those that no case before it in the suite reaches. */
  readonly goals: readonly Goal[];
  /** All that its run shows. */
  readonly reached: ReadonlySet<string>;
}

/**
 * Few cases that reach together what a search has reached beyond the cases there are, each made small. The case that adds most comes first (greedy set cover, V. Chvátal 1979); what a small case turns out
 * to show besides counts for those after it, and only what its own run shows counts at all.
 * @param before ids that are reached without them
 * @param isWanted goals that the cases are for; all of them unless said
 */
export function suiteOf(search: Search, before: ReadonlySet<string>, isWanted: (goal: Goal) => boolean = () => true): DerivedCase[] {
  const open = new Set(search.goals.filter((goal) => isWanted(goal) && search.reached.has(goal.id) && !before.has(goal.id)).map(({ id }) => id));
  const suite: DerivedCase[] = [];
  while (open.size > 0) {
    const adds = (one: Candidate): number => [...one.reached].filter((id) => open.has(id)).length;
    const best = search.found.reduce((a, b) => (adds(b) > adds(a) || (adds(b) === adds(a) && b.moves.length < a.moves.length) ? b : a));
    const wanted = [...best.reached].filter((id) => open.has(id));
    if (wanted.length === 0) break;
    // What the run decided, the small one decides as well: a criterion that is triggered at the very end says nothing yet.
    const decided = search.goals.flatMap(({ id, criterion }) => (open.has(id) && criterion ? [decidedId(criterion)] : []));
    const small = minimised(search, best, [...wanted, ...decided.filter((id) => best.reached.has(id))]);
    const goals = search.goals.filter(({ id }) => open.has(id) && small.reached.has(id));
    if (goals.length === 0) break;
    for (const { id } of goals) open.delete(id);
    suite.push({ ...small, goals });
  }
  return suite;
}

/** Shortest time that a case is cut to, beyond what it needs. */
const shares = [0.1, 0.2, 0.4, 0.6, 0.8];

/** The same goals with fewer moves, round times and a shorter run. */
function minimised(
  search: Search,
  { moves, stopNs, reached }: Candidate,
  wanted: readonly string[],
): Pick<DerivedCase, 'moves' | 'stopNs' | 'reached'> {
  let best = { moves, stopNs, reached };
  const tried = (next: readonly Move[], stop = best.stopNs): boolean => {
    const showing = search.showing(next, stop);
    if (!showing || !wanted.every((id) => showing.reached.has(id))) return false;
    best = { moves: next, stopNs: stop, reached: showing.reached };
    return true;
  };
  // Without one move another may be of no use either.
  for (let before = Number.POSITIVE_INFINITY; best.moves.length < before; ) {
    before = best.moves.length;
    for (let at = best.moves.length - 1; at >= 0; at -= 1) tried(best.moves.filter((_, index) => index !== at));
  }
  for (const gap of gapsNs)
    for (let at = 0; at < best.moves.length; at += 1) closeGap(best.moves, at, gap, (next, earlierNs) => tried(next, best.stopNs - earlierNs));
  for (let at = 0; at < best.moves.length; at += 1) {
    const { atNs } = best.moves[at] as Move;
    for (const rounder of rounderThan(atNs)) if (tried(best.moves.map((one, index) => (index === at ? { ...one, atNs: rounder } : one)))) break;
  }
  for (let at = 0; at < best.moves.length; at += 1) {
    const { value } = best.moves[at] as Move;
    for (const digits of [1, 2]) {
      const rounded = typeof value === 'number' ? Number(value.toPrecision(digits)) : value;
      if (rounded === value || tried(best.moves.map((one, index) => (index === at ? { ...one, value: rounded as number } : one)))) break;
    }
  }
  // What follows the last move has to be seen.
  const last = Math.max(0, ...best.moves.map(({ atNs }) => atNs));
  for (const share of shares) if (roundTime(stopNs * share) > last && tried(best.moves, roundTime(stopNs * share))) break;
  for (const rounder of rounderThan(best.stopNs)) if (rounder > best.stopNs && tried(best.moves, rounder)) break;
  return best;
}

/** Time that is left before a move where more is not needed. */
const gapsNs = [0, 1e9, 10e9];

/** Brings a move, and all that come later, nearer to the one before it. */
function closeGap(moves: readonly Move[], at: number, gapNs: number, tryIt: (next: readonly Move[], earlierNs: number) => void): void {
  const from = (moves[at] as Move).atNs;
  const before = Math.max(0, ...moves.flatMap((one) => (one.atNs < from ? [one.atNs] : [])));
  const earlierNs = from - before - gapNs;
  if (earlierNs <= 0) return;
  const earlier = (ns: number): number => (ns >= from ? ns - earlierNs : ns);
  tryIt(
    moves.map((one) => ({ ...one, atNs: earlier(one.atNs), ...(one.untilNs === undefined ? {} : { untilNs: earlier(one.untilNs) }) })),
    earlierNs,
  );
}

/** Steps between times that people write. */
const stepsNs = [60e9, 10e9, 5e9, 1e9];

/** Rounder times near one, the roundest first: whole minutes where they are near enough, then tens of seconds, fives, seconds; the nearer one first. */
function rounderThan(ns: number): number[] {
  return stepsNs.flatMap((step) => {
    if (ns % step === 0 || step > 0.2 * ns) return [];
    const [below, above] = [Math.floor(ns / step) * step, Math.ceil(ns / step) * step];
    return ns - below <= above - ns ? [below, above] : [above, below];
  });
}
