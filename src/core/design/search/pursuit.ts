import { nameKey } from '@/core/language';
import type { AssembledLoop } from '@/core/loop';
import type { Stream } from '@/core/numeric';
import type { SlotNumber } from '@/core/plan';
import type { Goal, Showing } from '../goals/goals';
import { type Literal, type Missing, type Nearness, type Situation, slotsOf } from '../goals/situation';
import type { Candidate } from './candidate';
import { type Drawing, mostMoves, pressed } from './drawing';
import { Influence } from './influence';
import { type Movable, type Move, roundTime } from './moves';
import { shiftedBy, waitableFor, waitingFor } from './waits';

/** What a case does, and how long it runs where that is not the usual time. */
export interface Course {
  readonly moves: readonly Move[];
  readonly stopNs?: number;
}

/** The end of a run, as a part of it. */
const endShare = 0.05;

/** Longest run, in times of the usual one. */
const mostStops = 4;

/** One of the situations of a goal, and the run that came nearest to it. */
export interface Approach {
  readonly goal: Goal;
  readonly situation: Situation;
  readonly candidate: Candidate;
  readonly nearness: Nearness;
  /** How often it was gone after since it came nearer. */
  tried: number;
}

/** How long after an instant something may be moved that is wanted there, and how long before it what may bring it about, in parts of the time of a run. */
const soon = 0.12;
const shortlyBefore = 0.04;

/** How often a move waits for the state that was entered before it, rather than for a time. */
const often = 0.1;

/** Goals one of which leads to another, at most so many in a row. */
const deepest = 12;

/**
 * Goes after goals one by one: of the run that came nearest to what a goal asks for it knows the instant, and what was missing then. An input that should have another value gets it at that instant; what was so
 * earlier or later is brought together with the rest; where a state was never entered, a way into it is gone after first; and of what follows from other things one is moved that has an influence on it.
 */
export class Pursuit {
  /** By the ids of goals, one for each of their situations. */
  private readonly approaches = new Map<string, Approach[]>();
  private readonly tried = new Map<string, number>();
  private readonly inputs: ReadonlyMap<SlotNumber, Movable>;
  private readonly messages: ReadonlyMap<string, Movable>;
  private readonly entries: readonly Required<Pick<Goal, 'state' | 'id'>>[];
  private readonly influence: Influence;

  constructor(
    loop: AssembledLoop,
    goals: readonly Goal[],
    movables: readonly Movable[],
    private readonly drawing: Drawing,
    private readonly stream: Stream,
    private readonly stopNs: number,
    private readonly isReached: (goal: string) => boolean,
  ) {
    this.influence = new Influence(loop, movables);
    const inputs = new Map(loop.plan.inputs.map(({ name, slot }) => [nameKey(name), slot]));
    this.inputs = new Map(
      movables.flatMap((one): [SlotNumber, Movable][] => {
        const slot = one.kind === 'parameter' ? undefined : inputs.get(nameKey(one.name));
        return slot === undefined ? [] : [[slot, one]];
      }),
    );
    this.messages = new Map(movables.filter(({ kind }) => kind === 'message').map((one) => [nameKey(one.name), one]));
    this.entries = goals.flatMap(({ id, state }) => (state === undefined ? [] : [{ id, state }]));
  }

  /** Of some goals, notes where a run came nearer to one than any before. */
  note(candidate: Candidate, { watcher }: Showing, goals: Iterable<Goal>): void {
    for (const goal of goals) {
      const known = this.approaches.get(goal.id) ?? [];
      const next = goal.situations.map((situation, index): Approach => {
        const before = known[index];
        const nearness = watcher.nearness(situation);
        return before && !isNearer(candidate, nearness, before)
          ? before
          : { goal, situation, candidate, nearness, tried: triedAfter(before, nearness) };
      });
      this.approaches.set(goal.id, next);
      // What has come nearer is gone after again.
      if (next.some((one, index) => one.nearness.distance < (known[index]?.nearness.distance ?? 0)))
        this.tried.set(goal.id, Math.max(0, (this.tried.get(goal.id) ?? 0) - 2));
    }
  }

  /** The nearest that any run came to a goal. */
  nearestTo({ id }: Goal): Approach | undefined {
    const [nearest] = [...(this.approaches.get(id) ?? [])].sort((a, b) => a.nearness.distance - b.nearness.distance);
    return nearest;
  }

  /** What to go after next: of the goals that were seldom tried the situation that is near and was seldom tried itself. */
  next(goals: readonly Pick<Goal, 'id'>[]): Approach | undefined {
    const known = goals.flatMap(({ id }) => this.approaches.get(id) ?? []);
    const triedOf = ({ goal }: Approach): number => this.tried.get(goal.id) ?? 0;
    const all = leastOf(known, triedOf, 0);
    const one = this.drawing.any(all)?.goal;
    // What a run brought about and did not reach the goal with is as good as far.
    const ways = all.filter(({ goal }) => goal === one);
    return this.drawing.any(leastOf(ways, ({ tried, nearness: { distance } }) => tried + (distance === 0 ? 1 : distance), 0.5));
  }

  /** Moves that may come nearer to what a goal asks for. */
  towards(approach: Approach, depth = 0): Course {
    approach.tried += 1;
    this.tried.set(approach.goal.id, (this.tried.get(approach.goal.id) ?? 0) + 1);
    const { candidate, nearness } = approach;
    // What can be brought about at any time comes last, all of it at once.
    const bound = nearness.missing.filter(({ literal }) => !literal.isFree);
    const free = bound.length === 0 ? this.free(approach) : [];
    if (free.length > 0) return { moves: this.brought(approach, free), stopNs: this.roomFor(approach) };
    const missing = this.drawing.any(bound);
    if (!missing && approach.goal.kind === 'decided')
      return { moves: [...candidate.moves], stopNs: Math.min(2 * candidate.stopNs, mostStops * this.stopNs) };
    if (!missing) return { moves: this.drawing.changed(candidate, () => []) };
    const { moves, stopNs = this.roomFor(approach) } = this.supplied(missing, approach, depth);
    return { moves: moves.slice(-mostMoves), stopNs };
  }

  /** How long a run goes on: the usual time, where that is enough to come near; longer where it came near only later; and a little longer where that was at its very end. */
  private roomFor({ candidate: { stopNs }, nearness: { places } }: Approach): number {
    const isAfter = (ns: number): boolean => places.every(({ at }) => at * 1e9 > (1 - endShare) * ns);
    if (isAfter(stopNs)) return Math.max(stopNs, Math.min(mostStops * this.stopNs, roundTime((1 + 2 * endShare) * stopNs)));
    return isAfter(this.stopNs) ? stopNs : Math.min(this.stopNs, stopNs);
  }

  private free({ situation }: Approach): readonly Literal[] {
    return situation.filter(({ isFree }) => isFree);
  }

  /** Inputs and messages as they should be, all at one instant. */
  private brought(approach: Approach, free: readonly Literal[]): Move[] {
    return this.with(approach, (atNs) => free.flatMap((literal) => this.freely(literal, atNs))).slice(-mostMoves);
  }

  private freely(literal: Literal, atNs: number): Move[] {
    if (literal.k === 'sent') {
      const message = this.messages.get(nameKey(this.drawing.any(literal.messages)?.name ?? ''));
      return message ? [{ atNs, name: message.name }] : [];
    }
    const input = this.drawing.any(slotsOf(literal).flatMap((slot) => this.inputs.get(slot) ?? []));
    return input ? this.set(input, literal, atNs) : [];
  }

  private supplied(missing: Missing, approach: Approach, depth: number): Course {
    const { candidate } = approach;
    const { literal, apart } = missing;
    if (literal.k === 'lasted' && missing.short !== undefined) return this.longer(approach, literal, missing.short);
    if (apart !== undefined && this.stream.next() < 0.6) return { moves: this.shifted(candidate.moves, apart) };
    const slots = slotsOf(literal);
    const next = depth < deepest && apart === undefined ? this.onTheWay(literal) : [];
    const moved = this.influence.drawn(slots, this.stream, next);
    if (moved === undefined) return { moves: this.drawing.changed(candidate, () => []) };
    if ('other' in moved) return this.towards(moved.other, depth + 1);
    return { moves: this.with(approach, (atNs) => this.drawing.of(moved.movable, atNs), shortlyBefore) };
  }

  /** States that were never entered: the one that is wanted itself, or one of each region that may have an influence on what is wanted. */
  private onTheWay(literal: Literal): { readonly other: Approach; readonly slot: SlotNumber }[] {
    const name = literal.k === 'truth' || literal.k === 'lasted' ? literal.state : undefined;
    const unseen = this.entries.filter(({ id, state }) => !this.isReached(id) && (name === undefined || state.name === name));
    return [...new Set(unseen.map(({ state }) => state.region))].flatMap((region) => {
      const approach = this.next(unseen.filter(({ state }) => state.region === region));
      return approach ? [{ other: approach, slot: region }] : [];
    });
  }

  /** Moves at the instant at which a run was nearest, or while what is there lasts. What the run did later is left out, or not. @param before how long before that it may be, in parts of the time of a run */
  private with({ candidate: { moves, stopNs, stays }, nearness }: Approach, make: (atNs: number) => Move[], before = 0): Move[] {
    const { at, until } = this.drawing.any(nearness.places) ?? { at: 0, until: 0 };
    const from = Math.max(0, at - before * this.stopNs * 1e-9 * this.stream.next());
    const seconds = from + this.stream.next() ** 2 * Math.min(soon * this.stopNs * 1e-9, Math.max(0.1, until - from));
    const atNs = Math.min(Math.max(this.stopNs, stopNs), Math.ceil(seconds * 10) * 1e8);
    const kept = this.stream.next() < 0.7 ? moves.filter((one) => one.atNs < atNs) : moves;
    const [first, ...more] = make(atNs);
    if (!first) return [...kept];
    const [stay] = this.stream.next() < often && first.untilNs === undefined ? waitableFor(kept, first, stays) : [];
    return [...kept, stay ? waitingFor(first, stay, this.stopNs) : first, ...more];
  }

  /** One move more of something that has an influence on what a goal speaks of, after something that happened in a run. */
  stirred(goal: Goal, { moves, events }: Candidate): Move[] | undefined {
    const of = this.influence.drawn(goal.slots, this.stream);
    return of && 'movable' in of ? [...moves, ...this.drawing.of(of.movable, this.drawing.time(events))].slice(-mostMoves) : undefined;
  }

  /** The value that an input should have. */
  private set(input: Movable, literal: Literal, atNs: number): Move[] {
    if (input.kind !== 'truth' || literal.k !== 'truth') return this.drawing.of(input, atNs);
    const wanted = literal.node.k === 'slot' ? literal.value : this.stream.next() < 0.5;
    return wanted && this.stream.next() < 0.6 ? pressed(input.name, atNs) : [{ atNs, name: input.name, value: wanted }];
  }

  /** One move, or that and all that come later, by what is missing: earlier where something came too late. */
  private shifted(moves: readonly Move[], apart: number): Move[] {
    const from = this.drawing.any(moves)?.atNs ?? 0;
    const alone = this.stream.next() < 0.5;
    const by = (this.stream.next() < 0.7 ? -1 : 1) * apart * (this.stream.next() < 0.5 ? 1 : 2 * this.stream.next());
    const shift = (ns: number): number => Math.min(this.stopNs, Math.max(0, Math.round((ns / 1e9 + by) * 10) * 1e8));
    return moves.map((one) => {
      const isMeant = alone ? one.atNs === from : one.atNs >= from;
      if (!isMeant) return one;
      return shiftedBy(one, shift);
    });
  }

  /** Something lasts longer: the run goes on, what ends it is moved, what the case does meanwhile is left out, or it begins earlier. */
  private longer({ candidate, nearness }: Approach, { endedBy }: Literal & { readonly k: 'lasted' }, short: number): Course {
    const { moves, stopNs } = candidate;
    const end = nearness.places[0]?.at ?? 0;
    if (end * 1e9 >= stopNs && stopNs < mostStops * this.stopNs) {
      const wantedNs = stopNs + roundTime(1.05 * short * 1e9);
      return { moves: [...moves], stopNs: Math.min(wantedNs, mostStops * this.stopNs) };
    }
    const u = this.stream.next();
    const moved = u < 0.6 ? this.influence.drawn(endedBy, this.stream) : undefined;
    if (moved && 'movable' in moved) {
      const atNs = roundTime(this.stream.next() * end * 1e9);
      return { moves: [...moves, ...this.drawing.of(moved.movable, atNs)], stopNs };
    }
    if (u < 0.8) {
      const gone = this.drawing.any(moves);
      return { moves: moves.filter((one) => one !== gone), stopNs };
    }
    return { moves: moves.map((one) => shiftedBy(one, (ns) => roundTime(ns / 2))), stopNs };
  }
}

/** Of two that are equally near the one that is so earlier is better: it leaves more time for what follows. Of those the one with fewer moves, and the later one. */
function isNearer({ moves }: Candidate, { distance, places }: Nearness, before: Approach): boolean {
  if (distance !== before.nearness.distance) return distance < before.nearness.distance;
  const [at, atBefore] = [places[0]?.at ?? 0, before.nearness.places[0]?.at ?? 0];
  return at === atBefore ? moves.length <= before.candidate.moves.length : at < atBefore;
}

/** A situation that has come nearer counts as tried less. */
function triedAfter(before: Approach | undefined, { distance }: Nearness): number {
  if (!before) return 0;
  return distance < before.nearness.distance ? Math.max(0, before.tried - 2) : before.tried;
}

/** Those whose score is the least, or less than so much above it. */
function leastOf<T>(all: readonly T[], scoreOf: (one: T) => number, above: number): T[] {
  const least = all.reduce((lowest, one) => Math.min(lowest, scoreOf(one)), Number.POSITIVE_INFINITY);
  return all.filter((one) => scoreOf(one) <= least + above);
}
