import type { Stream } from '@/core/numeric';
import type { Candidate } from './candidate';
import { drawnValue, type Movable, type Move, roundTime } from './moves';
import { type Stay, shiftedBy, waitableFor, waitingFor, withoutWait } from './waits';

/** Most moves of a case. */
export const mostMoves = 12;

/** Draws moves at random, and changes those of a case. */
export class Drawing {
  private readonly free: readonly Movable[];

  constructor(
    private readonly movables: readonly Movable[],
    private readonly stream: Stream,
    private readonly stopNs: number,
  ) {
    // Wires are many, and a fault of one is the exception.
    this.free = movables.filter(({ kind }) => kind !== 'wire');
  }

  any<T>(list: readonly T[]): T | undefined {
    return list[Math.floor(this.stream.next() * list.length)];
  }

  /** A case that has nothing of any other. */
  anew(): Move[] {
    const count = 1 + Math.floor(this.stream.next() * mostMoves);
    return Array.from({ length: count }, () => this.further([]))
      .flat()
      .slice(0, mostMoves);
  }

  /**
   * One to four changes of a case: moves are added, taken out, shifted, given other values, undone for a while, made to wait for a state, or joined with those of another.
   * @param parent the case, with what happened in its run
   * @param others moves of other cases
   */
  changed(parent: Pick<Candidate, 'moves' | 'events' | 'stays'>, others: () => readonly Move[]): Move[] {
    const count = 1 + Math.floor(this.stream.next() * 4);
    let next = [...parent.moves];
    for (let change = 0; change < count; change += 1) next = this.changedOnce(next, parent, others);
    return next.slice(0, mostMoves);
  }

  private changedOnce(moves: readonly Move[], { events, stays }: Pick<Candidate, 'events' | 'stays'>, others: () => readonly Move[]): Move[] {
    const at = Math.floor(this.stream.next() * moves.length);
    const move = moves[at];
    const u = this.stream.next();
    if (!move || u < 0.5) return [...moves, ...this.further(events)];
    if (u < 0.6) return moves.filter((_, index) => index !== at);
    if (u < 0.8) return moves.map((one, index) => (index === at ? { ...withoutWait(one), atNs: this.time(events) } : one));
    const of = this.movables.find(({ name }) => name === move.name);
    if (u < 0.9 && of && move.value !== undefined)
      return moves.map((one, index) => (index === at ? { ...one, value: drawnValue(of, this.stream) } : one));
    if (u < 0.93) return [...moves, ...this.interruption(moves, move)];
    if (u < 0.96) return this.waiting(moves, move, stays);
    const cut = this.time(events);
    return [...moves.filter((one) => one.atNs <= cut), ...others().filter((one) => one.atNs > cut)];
  }

  /** A move before something happened, or that and all that come later, at another time, to the very hit. @param shift when it happened, and by how much it is to be later (s) */
  shifted(moves: readonly Move[], { at, seconds }: { readonly at: number; readonly seconds: number }): Move[] {
    const before = moves.filter(({ atNs }) => atNs <= at * 1e9);
    // The last one before it is most often the reason.
    const last = before.reduce((latest, { atNs }) => Math.max(latest, atNs), 0);
    const from = before.length > 0 && this.stream.next() < 0.6 ? last : (this.any(before.length > 0 ? before : moves)?.atNs ?? 0);
    const alone = this.stream.next() < 0.5;
    const later = (ns: number): number => Math.min(this.stopNs, Math.max(0, ns + Math.round(seconds * 1e9)));
    return moves.map((one) => {
      if (alone ? one.atNs !== from : one.atNs < from) return one;
      return shiftedBy(one, later);
    });
  }

  /** Soon after a move its input goes back to what it was before, for a while. */
  private interruption(moves: readonly Move[], { atNs, untilNs = atNs, name, value }: Move): Move[] {
    const of = this.movables.find((one) => one.name === name);
    if (value === undefined || !of || of.kind === 'parameter') return [];
    const before = moves.filter((one) => one.name === name && one.atNs < atNs).sort((a, b) => b.atNs - a.atNs)[0]?.value;
    const start = of.kind === 'truth' ? of.start !== 0 : of.start;
    const backNs = Math.min(this.stopNs, untilNs + roundTime(10 ** (8 + 2.5 * this.stream.next())));
    const againNs = Math.min(this.stopNs, backNs + roundTime(10 ** (8 + 1.5 * this.stream.next())));
    return [
      { atNs: backNs, name, value: before ?? start },
      { atNs: againNs, name, value },
    ];
  }

  /** A move waits for a state that was entered before it, instead of for a time. */
  private waiting(moves: readonly Move[], move: Move, stays: readonly Stay[]): Move[] {
    const stay = move.wait ? undefined : this.any(waitableFor(moves, move, stays));
    return moves.map((one) => (one === move && stay ? waitingFor(move, stay, this.stopNs) : one));
  }

  private further(events: readonly number[]): Move[] {
    const of = this.any(this.free.length > 0 && this.stream.next() < 0.75 ? this.free : this.movables);
    return of ? this.of(of, this.time(events)) : [];
  }

  /** A move of something at a time: of a truth it may be a press, of a number a ramp, of a wire a fault that ends or does not. */
  of(of: Movable, atNs: number): Move[] {
    if (of.kind === 'message') return [{ atNs, name: of.name }];
    if (of.kind === 'wire') return this.faulty(of, atNs);
    if (of.kind === 'parameter') return [{ atNs: 0, name: of.name, value: drawnValue(of, this.stream) }];
    const value = drawnValue(of, this.stream);
    const laterNs = this.later(atNs);
    if (of.kind === 'truth' && this.stream.next() < 0.5) return pressed(of.name, atNs);
    if (of.kind === 'real' && this.stream.next() < 0.4 && laterNs > atNs) return [{ atNs, name: of.name, value, untilNs: laterNs }];
    return [{ atNs, name: of.name, value }];
  }

  /** A wire that gets a fault, half of the time for good. */
  private faulty({ name }: Movable, atNs: number): Move[] {
    const fault: Move = { atNs, name, fault: this.stream.next() < 0.5 ? 'frozen' : 'lost' };
    const untilNs = this.later(atNs);
    return this.stream.next() < 0.5 || untilNs >= this.stopNs ? [fault] : [fault, { atNs: untilNs, name, fault: 'over' }];
  }

  /** One to a hundred seconds later. */
  private later(atNs: number): number {
    return Math.min(this.stopNs, atNs + roundTime(10 ** (9 + 2 * this.stream.next())));
  }

  /** At the beginning, at or soon after something that happened, or anywhere. */
  time(events: readonly number[]): number {
    const u = this.stream.next();
    const event = this.any(events);
    if (u < 0.15) return 0;
    if (u < 0.75 && event !== undefined) return Math.min(this.stopNs, event + roundTime(10 ** (8 + 2.5 * this.stream.next())));
    return roundTime(this.stream.next() * this.stopNs);
  }
}

/** A truth that is TRUE for a second. */
export function pressed(name: string, atNs: number): Move[] {
  return [
    { atNs, name, value: true },
    { atNs: atNs + 1e9, name, value: false },
  ];
}
