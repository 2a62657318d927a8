import { marginWords } from '@/core/wording';
import { decidedId, type Goal } from './goals/goals';
import type { Candidate } from './search/candidate';
import { type Move, roundTime } from './search/moves';
import { clearly, type Search, type Shown } from './search/search';
import { patienceFor, shiftedBy, waitableFor, waitingFor, withoutWait } from './search/waits';

/** A case that was found and made small. */
export interface DerivedCase extends Shown {
  /** The goals it is there for: those that no case before it in the suite reaches. */
  readonly goals: readonly Goal[];
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
    const kept = [...wanted, ...decided.filter((id) => best.reached.has(id))];
    const isEnough = (shown: Shown): boolean => kept.every((id) => shown.reached.has(id));
    const waits = search.goals.some((goal) => wanted.includes(goal.id) && hasStates(goal));
    const small = minimised(search, best, isEnough, waits);
    const goals = search.goals.filter(({ id }) => open.has(id) && small?.reached.has(id));
    for (const id of wanted) open.delete(id);
    for (const { id } of goals) open.delete(id);
    if (small && goals.length > 0) suite.push({ ...small, goals });
    else search.forget(wanted);
  }
  for (const goal of search.goals.filter((one) => one.kind === 'least' && isWanted(one))) suite.push(...narrowest(search, goal, suite));
  return suite;
}

/** The case that meets a criterion with less margin than any there is, and any of the suite. */
function narrowest(search: Search, goal: Goal, suite: readonly DerivedCase[]): DerivedCase[] {
  const near = search.isBroken(goal) ? undefined : search.nearestTo(goal.id);
  const measureOf = ({ distances }: Shown): number => distances.get(goal.id)?.measure ?? Number.POSITIVE_INFINITY;
  const before = Math.min(search.leastBefore(goal.id), ...suite.map(measureOf));
  if (!near || (Number.isFinite(before) && near.distance.measure >= before - clearly * Math.abs(before))) return [];
  const enough = near.distance.measure + clearly * Math.abs(near.distance.measure);
  const small = minimised(search, near.candidate, (shown) => measureOf(shown) <= enough, hasStates(goal));
  const margin = small?.distances.get(goal.id)?.margin;
  return small && margin ? [{ ...small, goals: [{ ...goal, words: `${goal.words}: margin ${marginWords(margin)}` }] }] : [];
}

/** Shortest time that a case is cut to, beyond what it needs. */
const shares = [0.1, 0.2, 0.4, 0.6, 0.8];

/** Makes a case smaller, a step at a time, each kept only where its own run still shows what is wanted. */
class Smaller {
  constructor(
    private readonly search: Search,
    /** The smallest so far. */
    public best: Shown,
    private readonly isEnough: (shown: Shown) => boolean,
  ) {}

  tried(moves: readonly Move[], stopNs = this.best.stopNs): boolean {
    const shown = this.search.shown(moves, stopNs);
    if (!shown || !this.isEnough(shown)) return false;
    this.best = shown;
    return true;
  }

  /** The same with one move otherwise. */
  changed(at: number, change: (move: Move) => Move): boolean {
    return this.tried(this.best.moves.map((one, index) => (index === at ? change(one) : one)));
  }
}

/** The same goals with fewer moves, round times and a shorter run; where they depend on states, as a script that waits for them. */
function minimised(search: Search, candidate: Candidate, isEnough: (shown: Shown) => boolean, waits: boolean): Shown | undefined {
  const { moves, stopNs } = candidate;
  const first = [moves.map(withoutWait), moves].map((one) => search.shown(one, stopNs)).find((one) => one && isEnough(one));
  if (!first) return undefined;
  const smaller = new Smaller(search, first, isEnough);
  takeOut(smaller);
  for (const gap of gapsNs)
    for (let at = 0; at < smaller.best.moves.length; at += 1)
      closeGap(smaller.best.moves, at, gap, (next, earlierNs) => smaller.tried(next, smaller.best.stopNs - earlierNs));
  roundOff(smaller);
  cutShort(smaller, stopNs);
  if (waits) waitForStates(smaller);
  return smaller.best;
}

/** Takes out moves that are of no use. */
function takeOut(smaller: Smaller): void {
  // Without one move another may be of no use either.
  for (let before = Number.POSITIVE_INFINITY; smaller.best.moves.length < before; ) {
    before = smaller.best.moves.length;
    for (let at = smaller.best.moves.length - 1; at >= 0; at -= 1) smaller.tried(smaller.best.moves.filter((_, index) => index !== at));
  }
}

/** Gives moves times and values as a person would write them. */
function roundOff(smaller: Smaller): void {
  for (let at = 0; at < smaller.best.moves.length; at += 1) {
    const { atNs } = smaller.best.moves[at] as Move;
    for (const rounder of rounderThan(atNs)) if (smaller.changed(at, (one) => ({ ...one, atNs: rounder }))) break;
  }
  for (let at = 0; at < smaller.best.moves.length; at += 1) {
    const { value } = smaller.best.moves[at] as Move;
    for (const digits of [1, 2]) {
      const rounded = typeof value === 'number' ? Number(value.toPrecision(digits)) : value;
      if (rounded === value || smaller.changed(at, (one) => ({ ...one, value: rounded as number }))) break;
    }
  }
}

function cutShort(smaller: Smaller, stopNs: number): void {
  const { moves } = smaller.best;
  // What follows the last move has to be seen.
  const last = Math.max(0, ...moves.map(({ atNs }) => atNs));
  for (const share of shares) if (roundTime(stopNs * share) > last && smaller.tried(moves, roundTime(stopNs * share))) break;
  const cut = smaller.best.stopNs;
  for (const rounder of rounderThan(cut)) if (rounder > cut && smaller.tried(moves, rounder)) break;
}

/** A move sooner after the one before it than this comes with it. */
const togetherNs = 2e9;
/** States that are tried for one move. */
const mostStates = 3;

/** Moves that come some time after others wait for a state that was entered in between, where it may be so: a case says what it acts upon. */
function waitForStates(smaller: Smaller): void {
  const times = [...new Set(smaller.best.moves.map(({ atNs }) => atNs))].sort((a, b) => a - b);
  for (let number = 0; number < times.length; number += 1) {
    // Times may have moved a little with what was made to wait before.
    const moves = [...smaller.best.moves].sort((a, b) => a.atNs - b.atNs);
    const at = moves.findIndex((one) => [...new Set(moves.map(({ atNs }) => atNs))][number] === one.atNs);
    const move = moves[at];
    const beforeNs = moves[at - 1]?.atNs ?? 0;
    if (!move || move.wait || move.atNs - beforeNs <= togetherNs) continue;
    for (const stay of waitableFor(moves, move, smaller.best.stays).slice(0, mostStates)) {
      const waiting = waitingFor(move, stay, patienceFor(stay.fromNs - beforeNs));
      const later = (thenNs: number): Move => shiftedBy(waiting, () => stay.fromNs + thenNs);
      const tries = afterStates(move.atNs - stay.fromNs).map((thenNs) => moves.map((one, index) => (index === at ? later(thenNs) : one)));
      if (tries.some((one) => smaller.tried(one))) break;
    }
  }
}

/** How long after a state was entered a move may come instead of so long, the roundest first. */
function afterStates(ns: number): number[] {
  return [...new Set([...(ns <= 1e9 ? [0] : []), ...rounderThan(ns), roundTime(ns), ns])];
}

/** Whether a goal asks for a state. */
function hasStates({ kind, situations }: Goal): boolean {
  return kind === 'state' || situations.some((way) => way.some((literal) => 'state' in literal && literal.state !== undefined));
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
    moves.map((one) => shiftedBy(one, earlier)),
    earlierNs,
  );
}

/** Steps between times that people write. */
const stepsNs = [60e9, 10e9, 5e9, 1e9, 1e8];

/** Rounder times near one, the roundest first: whole minutes where they are near enough, then tens of seconds, fives, seconds, tenths; the nearer one first. */
function rounderThan(ns: number): number[] {
  return stepsNs.flatMap((step) => {
    if (ns % step === 0 || step > 0.2 * ns) return [];
    const [below, above] = [Math.floor(ns / step) * step, Math.ceil(ns / step) * step];
    return ns - below <= above - ns ? [below, above] : [above, below];
  });
}
