import {
  type Condition,
  combined,
  firstIn,
  InRun,
  type Obligation,
  type Signals,
  type Stretch,
  scan,
  stretches,
  type Timeline,
  truthAfter,
  truthAt,
  truthBefore,
} from '@/core/criteria';
import { constant, minus, type Node, negative, plus } from '@/core/plan';
import type { BoundBoundary, BoundLimit } from './bound';

/** How far a run was from a border. */
export interface Off {
  /** 0 where it is on it, else how far, in parts of what counts as far. */
  readonly measure: number;
  /** When it was on it first (s). */
  readonly at?: number;
  /** What happened at `at` would have to happen so much later (s). */
  readonly shift?: { readonly at: number; readonly seconds: number };
}

/** On the border. @param at when (s) */
function reached(at: number): Off {
  return { measure: 0, at };
}

/**
 * How far a run was from a border of a criterion; nothing where that cannot be said.
 * @param obligations of the criterion in the run
 */
export function offOf(boundary: BoundBoundary, signals: Signals, obligations: readonly Obligation[]): Off | undefined {
  const run = new InRun(boundary, signals);
  switch (boundary.k) {
    case 'event': {
      const line = boundary.with && run.timeline(boundary.with);
      const come = run.triggers(boundary.event, boundary.before).find((t) => !line || truthAt(line, t) === 1 || truthAfter(line, t) === 1);
      return come === undefined ? undefined : reached(come);
    }
    case 'holds': {
      const [first] = stretches(run.timeline(boundary.of));
      return first && reached(first.from);
    }
    case 'turns':
      return turned(boundary, run, boundary.within);
    case 'at event':
      return atEvent(boundary, run, run.triggers(boundary.event, boundary.before));
    case 'lasts':
      return lasted(boundary, stretches(run.timeline(boundary.of)), run.trace.until);
    case 'interrupted':
      return interrupted(boundary, stretches(run.timeline(boundary.of)));
    case 'again':
      return again(obligations, run.trace.until - run.trace.from);
    case 'order':
      return inOrder(
        boundary.events.map((one) => run.events(one)[0]),
        run.trace.until - run.trace.from,
      );
  }
}

/** Where a limit is, as conditions: it is not missed by more than `near`, is reached, is passed, is passed by more than `near`. */
interface Marks {
  readonly near: Timeline;
  readonly holds: Timeline;
  readonly passed: Timeline;
  readonly far: Timeline;
}

function marksOf({ atom: { distance, strict }, near }: BoundLimit, { signals }: InRun): Marks {
  const line = (of: Node, isStrict: boolean): Timeline => scan(of, false, signals).timeline(isStrict);
  const by = constant('LREAL', near);
  return {
    near: line(plus(distance, by), false),
    holds: line(distance, strict),
    passed: line(distance, true),
    far: line(minus(distance, by), true),
  };
}

/** Of each stretch in which the quantity is near its limit, or beyond it: on which side of it its greatest value lies. */
function turned(limit: BoundLimit, run: InRun, within: Condition | undefined): Off | undefined {
  const { side } = limit;
  const marks = marksOf(limit, run);
  const context = within && run.timeline(within);
  const near = stretches(context ? combined('and', marks.near, context) : marks.near);
  const there = near.find((one) => {
    const most = mostOf(limit, run, one);
    if (isCutOff(limit, run, one, most)) return false;
    const isPassed = firstIn(marks.passed, 1, one) !== undefined;
    if (side === 'above') return isPassed && firstIn(marks.far, 1, one) === undefined;
    return !isPassed && (side === 'at' ? most === 0 : most !== 0 && firstIn(marks.holds, 1, one) === undefined);
  });
  if (there) return reached(there.from);
  const { from, until } = run.trace;
  const all = near.length > 0 ? near : context ? stretches(context) : [{ from, until, fromIncluded: true, untilIncluded: true }];
  const gaps = all.map((one) => gapOf(limit, mostOf(limit, run, one)));
  return gaps.length === 0 ? undefined : { measure: Math.min(...gaps) };
}

/** The run ends as the distance has its greatest value in a stretch: nobody knows whether it would have gone on. */
function isCutOff({ atom }: BoundLimit, { signals, trace }: InRun, stretch: Stretch, most: number): boolean {
  const line = scan(minus(atom.distance, constant('LREAL', most)), false, signals).timeline(false);
  return firstIn(line, 1, stretch) === trace.until;
}

function mostOf({ atom }: BoundLimit, { signals }: InRun, { from, until, untilIncluded }: Stretch): number {
  return -scan(negative(atom.distance), false, signals).least(from, until, untilIncluded).value;
}

/** How far a distance is from where it should be, in parts of what counts as far; above 0 also where it is just beside it. */
function gapOf({ side, near, atom: { scale } }: BoundLimit, most: number): number {
  const wanted = side === 'below' ? -near / 2 : side === 'at' ? 0 : near / 2;
  const gap = Math.abs(most - wanted) / scale;
  return Number.isFinite(gap) ? Math.max(gap, Number.MIN_VALUE) : Number.POSITIVE_INFINITY;
}

function atEvent(limit: BoundLimit, run: InRun, events: readonly number[]): Off | undefined {
  const { side } = limit;
  const { near, holds, passed, far } = marksOf(limit, run);
  const there = events.find((t) => {
    if (truthBefore(near, t) !== 1) return false;
    const isPassed = truthBefore(passed, t) === 1;
    if (side === 'above') return isPassed && truthBefore(far, t) !== 1;
    return !isPassed && (side === 'at') === isJust(limit, run, t) && (side === 'at' || truthBefore(holds, t) !== 1);
  });
  if (there !== undefined) return reached(there);
  const gaps = events.map((t) => gapOf(limit, mostOf(limit, run, { from: t, until: t, fromIncluded: true, untilIncluded: true })));
  return gaps.length === 0 ? undefined : { measure: Math.min(...gaps) };
}

/** The distance is neither above nor below 0 just before an instant. */
function isJust({ atom: { distance } }: BoundLimit, { signals }: InRun, t: number): boolean {
  const [above, below] = [scan(distance, false, signals).timeline(true), scan(negative(distance), false, signals).timeline(true)];
  return truthBefore(above, t) === 0 && truthBefore(below, t) === 0;
}

function lasted({ length, seconds, hit }: BoundBoundary & { k: 'lasts' }, spans: readonly Stretch[], end: number): Off | undefined {
  const [fullNs, hitNs] = [Math.round(seconds * 1e9), Math.round(hit * 1e9)];
  // To the hit: what is sampled lasts a whole number of them, what is not may end between two.
  const leastNs = fullNs + { 'one hit short': -hitNs, exact: 0, 'one hit longer': hitNs }[length];
  const wantedNs = leastNs + Math.round(hitNs / 4);
  // One that the end of the run cuts off has not ended.
  const offs = spans
    .filter(({ until }) => until < end)
    .map(({ from, until }): Off => {
      const ns = Math.round((until - from) * 1e9);
      const isThere = ns >= leastNs && ns < leastNs + hitNs;
      return isThere
        ? reached(until)
        : { measure: Math.max(Math.abs(ns - wantedNs) / fullNs, Number.MIN_VALUE), shift: { at: until, seconds: (wantedNs - ns) / 1e9 } };
    });
  return leastOff(offs);
}

function interrupted({ seconds }: BoundBoundary & { k: 'interrupted' }, spans: readonly Stretch[]): Off | undefined {
  const offs = spans.slice(1).map((next, index): Off => {
    const { from, until } = spans[index] as Stretch;
    const due = from + seconds;
    const short = Math.max(0, until - due) + Math.max(0, next.from - due) + Math.max(0, due - next.until);
    return until < due && next.from < due && next.until >= due ? reached(next.from) : { measure: Math.max(short / seconds, Number.MIN_VALUE) };
  });
  return leastOff(offs);
}

function again(obligations: readonly Obligation[], span: number): Off | undefined {
  const offs = obligations.slice(1).map(({ from }, index): Off => {
    const before = obligations[index] as Obligation;
    if (from > before.from && from < before.at) return reached(from);
    return {
      measure: (from - before.at) / span + Number.MIN_VALUE,
      shift: { at: from, seconds: (before.from + before.at) / 2 - from },
    };
  });
  return leastOff(offs);
}

/** @param firsts when each event came first; they should come one after the other */
function inOrder(firsts: readonly (number | undefined)[], span: number): Off | undefined {
  let [measure, worst] = [0, 0];
  let shift: Off['shift'];
  firsts.forEach((next, index) => {
    const before = firsts[index - 1];
    if (next === undefined) measure += 1;
    else if (before !== undefined && next <= before) {
      const late = before - next;
      measure += Math.max(late / span, Number.MIN_VALUE);
      if (late >= worst) [worst, shift] = [late, { at: next, seconds: late + Math.max(0.1, 0.01 * span) }];
    }
  });
  return measure === 0 ? reached(firsts.at(-1) ?? 0) : { measure, ...(shift ? { shift } : {}) };
}

function leastOff(offs: readonly Off[]): Off | undefined {
  return offs.length === 0 ? undefined : offs.reduce((a, b) => (b.measure < a.measure ? b : a));
}
