import { nameKey } from '@/core/language';
import type { Catalogue } from '@/core/loop';
import type { Plan } from '@/core/plan';
import type { Trace } from '@/core/trace';
import { type Move, stepsAmong } from './moves';

/** A state of the logic, as a script names it, and a time in which a run was in it. */
export interface Stay {
  readonly state: string;
  readonly fromNs: number;
  readonly untilNs: number;
}

/** The states of a plan by their marks, each with the shortest end of its name that means it alone and says of what it is a state. */
export function stateNames({ regions }: Plan, catalogue: Catalogue): ReadonlyMap<number, string> {
  return new Map(regions.flatMap(({ name, states }) => states.map((state) => [state.mark, shortest(`${name}.${state.name}`, catalogue)])));
}

function shortest(full: string, catalogue: Catalogue): string {
  const parts = full.split('.');
  for (let from = parts.length - 2; from > 0; from -= 1) {
    const [only, ...others] = catalogue.fullNames(parts.slice(from));
    if (only !== undefined && others.length === 0 && nameKey(only) === nameKey(full)) return parts.slice(from).join('.');
  }
  return full;
}

/** When a run was in which state, in the order of entering. @param names of states by their marks */
export function staysIn({ marks, until }: Trace, names: ReadonlyMap<number, string>): Stay[] {
  const stays: { -readonly [K in keyof Stay]: Stay[K] }[] = [];
  const open = new Map<number, (typeof stays)[number]>();
  marks.mark.forEach((mark, index) => {
    const state = names.get(mark);
    if (state === undefined) return;
    const ns = Math.round((marks.time[index] as number) * 1e9);
    if (marks.entered[index] === 1) {
      const stay = { state, fromNs: ns, untilNs: Math.round(until * 1e9) };
      open.set(mark, stay);
      stays.push(stay);
    } else {
      const stay = open.get(mark);
      if (stay) stay.untilNs = ns;
      open.delete(mark);
    }
  });
  return stays;
}

/** A case whose moves wait for states, with the times at which they came about in its run: to one hit, since a script sees a state where it looks next. What waits for a state that never came is left out, with all that follows. */
export function asTheyCame(moves: readonly Move[], stays: readonly Stay[]): readonly Move[] {
  if (moves.every(({ wait }) => wait === undefined)) return moves;
  const isStep = stepsAmong(moves);
  const came = moves.filter((one) => !isStep(one)).map(withoutWait);
  let [meantNs, cameNs] = [0, 0];
  for (const move of moves.filter(isStep).sort((a, b) => a.atNs - b.atNs)) {
    const { atNs, wait } = move;
    const from = cameNs;
    const met = wait && stays.find((stay) => stay.state === wait.state && stay.untilNs > from);
    if (wait && !met) break;
    cameNs = met && wait ? Math.max(from, met.fromNs) + wait.thenNs : from + (atNs - meantNs);
    meantNs = atNs;
    came.push({ ...move, atNs: cameNs });
  }
  return came;
}

/** A move that waits for a state, and comes as long after it as it did. @param giveUpNs how long it waits at most */
export function waitingFor(move: Move, { state, fromNs }: Stay, giveUpNs: number): Move {
  return { ...move, wait: { state, thenNs: move.atNs - fromNs, giveUpNs } };
}

/** A move that comes at a time. */
export function withoutWait({ wait: _, ...move }: Move): Move {
  return move;
}

/** A move at another time; one that waits comes so much sooner or later after what it waits for. */
export function shiftedBy(move: Move, shift: (ns: number) => number): Move {
  const { atNs, untilNs, wait } = move;
  const next = shift(atNs);
  return {
    ...move,
    atNs: next,
    ...(untilNs === undefined ? {} : { untilNs: shift(untilNs) }),
    ...(wait ? { wait: { ...wait, thenNs: Math.max(0, wait.thenNs + next - atNs) } } : {}),
  };
}

/** States that a move may wait for: entered with or after what the case did before it, and left only with or after it; the latest first. */
export function waitableFor(moves: readonly Move[], { atNs }: Move, stays: readonly Stay[]): readonly Stay[] {
  const before = moves.reduce((latest, one) => (one.atNs < atNs ? Math.max(latest, one.atNs) : latest), 0);
  // What is so from the start is nothing to wait for, and what a move brings about at once comes after it.
  return stays.filter(({ fromNs, untilNs }) => fromNs > 0 && fromNs >= before && fromNs < atNs && untilNs >= atNs).reverse();
}

/** How long to wait at most for something that took so long: twice that, as a person would write it. */
export function patienceFor(ns: number): number {
  const seconds = (2 * ns) / 1e9;
  const step = seconds <= 60 ? 10 : seconds <= 600 ? 60 : 600;
  return Math.max(1, Math.ceil(seconds / step)) * step * 1e9;
}
