import { constant, minus, type Node, negative, size } from '@/core/plan';
import { unitOfDifference } from '@/core/units';
import { countUntil, firstAfter } from '../truth/instants';
import { atLimit, Sum } from '../truth/rounding';
import { type Signals, scan } from '../truth/scan';
import { addTime, marginOf, timeBetween } from '../truth/seconds';
import { combined, firstIn, negated, perhaps, type Stretch, stretches, type Timeline, truthBefore } from '../truth/timeline';
import type { Condition, Event, Margin, Measure, MeasureLimit, MeasureScope, Obligation } from '../types';

/** What the judge lends: truth of conditions and instants of events. */
interface Lent {
  readonly timeline: (of: Condition) => Timeline;
  readonly events: (of: Event) => number[];
}

/** One step of the reference: from when to when it stays, and where y was at its beginning. */
interface Step {
  readonly at: number;
  readonly end: number;
  readonly isLast: boolean;
  readonly from: number;
  readonly size: number;
  readonly upward: boolean;
}

const real = (value: number): Node => constant('LREAL', value);

/** Steps smaller than this share of the larger of both levels are none. */
const smallestStep = 1e-9;
/** Rise is from the first of these shares of the step to the second; the steady error is looked at in the last part of the time a step lasts. */
const riseFrom = 0.1;
const riseTo = 0.9;
const lastPart = 0.1;

/**
 * Obligations of a measure: one for each step of the reference (after Ogata, Modern Control Engineering: overshoot, rise from 10 to 90 %, settling into a band for good), one over the run, one for each
 * stretch of a condition, or one for each event from which time is taken. A limit from above is broken at the very instant at which the figure passes it; a limit from below, and a figure that may still
 * fall, when the run or the step has ended. A figure that is not known when the run ends leaves its obligation open, unless the limit has been passed already.
 */
export class Measures {
  private readonly scope: Timeline | undefined;
  private readonly isUpper: boolean;

  constructor(
    private readonly signals: Signals,
    private readonly limit: MeasureLimit,
    private readonly lent: Lent,
    scope: MeasureScope,
  ) {
    this.scope = this.scopeOf(scope);
    this.isUpper = limit.operator === '<' || limit.operator === '<=';
  }

  obligations(measure: Measure): Obligation[] {
    switch (measure.k) {
      case 'step':
        return this.steps(measure.reference, measure.value)
          .filter((step) => this.inScope(step.at))
          .map((step) => this.ofStep(measure, step));
      case 'whole':
        return this.whole(measure.kind, measure.value);
      case 'duration':
        return this.duration(this.scoped(measure.of));
      case 'longest':
        return this.longest(this.scoped(measure.of));
      case 'count': {
        const events = this.events(measure.of);
        return measure.seconds === undefined ? this.count(events) : this.countInAny(events, measure.seconds);
      }
      case 'time': {
        const ends = this.lent.events(measure.to);
        return this.events(measure.from).map((begin) => this.timed(begin, this.signals.trace.until, nextOf(ends, begin)));
      }
      case 'distance': {
        const ends = this.lent.events(measure.to);
        return this.events(measure.from).map((begin) => this.distant(begin, nextOf(ends, begin)));
      }
    }
  }

  /** Where in the run the measure looks; nothing for everywhere. */
  private scopeOf({ during, after }: MeasureScope): Timeline | undefined {
    const { from, until } = this.signals.trace;
    const line = during && this.lent.timeline(during);
    if (after === undefined) return line;
    const start = addTime(from, after);
    const later: Timeline =
      start >= until
        ? { time: [from], point: [0], span: [0], until }
        : { time: [from, start], point: [start > from ? 0 : 1, 1], span: [start > from ? 0 : 1, 1], until };
    return line ? combined('and', line, later) : later;
  }

  /** An event counts that the scope holds just before, so that one which ends it still does. */
  private inScope(t: number): boolean {
    return !this.scope || truthBefore(this.scope, t) === 1;
  }

  private events(of: Event): number[] {
    return this.lent.events(of).filter((t) => this.inScope(t));
  }

  private scoped(of: Condition): Timeline {
    const line = this.lent.timeline(of);
    return this.scope ? combined('and', line, this.scope) : line;
  }

  /** Stretches of the run that are looked at. */
  private looked(): Stretch[] {
    const { from, until } = this.signals.trace;
    return this.scope ? stretches(this.scope) : [{ from, until, fromIncluded: true, untilIncluded: true }];
  }

  /** The figure passes a limit from above as soon as it is there. */
  private passes(value: number): boolean {
    return this.limit.operator === '<' ? value >= this.limit.value : value > this.limit.value;
  }

  /**
   * The sum of the times of a condition. Where it never held nothing is shown by a limit from above, unless that forbids it altogether.
   * Where a value is missing it may have held or not; the sum is told only if that decides nothing.
   */
  private duration(line: Timeline): Obligation[] {
    const { from, until } = this.signals.trace;
    const found = stretches(line);
    const sum = lengthOf(found);
    const possible = stretches(perhaps(line));
    const most = lengthOf(possible);
    const mayShowNothing = this.isUpper && found.length === 0 && this.limit.value > 0;
    if (mayShowNothing && possible.length === 0) return [];
    if (mayShowNothing || this.holds(sum) !== this.holds(most)) return [this.missing(from, until)];
    const told = this.figure(from, until, this.passedAt(found), sum);
    if (most === sum) return [told];
    const { margin: _, ...withoutFigure } = told;
    return [withoutFigure];
  }

  /** When the sum of stretches passes a limit from above; the end of the run where it does not. */
  private passedAt(found: readonly Stretch[]): number {
    let before = 0;
    for (const one of found) {
      const sum = addTime(before, timeBetween(one.from, one.until));
      if (this.isUpper && this.passes(sum)) return Math.min(one.until, addTime(one.from, Math.max(0, this.limit.value - before)));
      before = sum;
    }
    return this.signals.trace.until;
  }

  /**
   * Each stretch owes on its own. One beside which a value is missing may be longer than is known, and there may be others where it is missing:
   * of a limit from above it is told that it was passed, or that it could not be; of one from below nothing.
   */
  private longest(line: Timeline): Obligation[] {
    const known = stretches(line);
    return stretches(perhaps(line)).flatMap((whole): Obligation[] => {
      const inside = known.filter((one) => one.from >= whole.from && one.until <= whole.until);
      const told = inside.map((one) => this.lasting(one));
      if (inside.length === 1 && isSame(inside[0] as Stretch, whole)) return told;
      const isShort = this.isUpper && !this.passes(timeBetween(whole.from, whole.until)) && whole.until < this.signals.trace.until;
      if (isShort && told.length > 0) return told;
      const broken = this.isUpper ? told.filter(({ outcome }) => outcome === 'broken') : [];
      return broken.length > 0 ? broken : [this.missing(whole.from, whole.until)];
    });
  }

  /** One stretch of a condition; the last one may go on after the run. */
  private lasting({ from, until, untilIncluded }: Stretch): Obligation {
    const goesOn = until === this.signals.trace.until && untilIncluded;
    return this.timed(from, until, goesOn ? undefined : until);
  }

  private count(events: readonly number[]): Obligation[] {
    const { from, until } = this.signals.trace;
    if (this.isUpper && events.length === 0 && !this.passes(1)) return [];
    const broke = this.isUpper ? events.find((_, index) => this.passes(index + 1)) : undefined;
    return [this.figure(from, until, broke ?? until, events.length)];
  }

  /**
   * A limit from above: in the time from each event on, [t, t + D), there come no more than so many, itself counted. A limit from below: in the time after each event,
   * (t, t + D], and from the start of the run, there come at least so many.
   */
  private countInAny(events: readonly number[], seconds: number): Obligation[] {
    const { from, until: end } = this.signals.trace;
    const starts = this.isUpper ? events : [from, ...events];
    return starts.map((begin, index): Obligation => {
      const until = addTime(begin, seconds);
      const first = this.isUpper || index === 0 ? countBefore(events, begin) : countUntil(events, begin);
      const count = (this.isUpper ? countBefore(events, until) : countUntil(events, until)) - first;
      const distance = this.isUpper ? this.limit.value - count : count - this.limit.value;
      const common = { from: begin, until, margin: { value: distance, unit: '', measure: distance / (Math.abs(this.limit.value) || 1) } };
      // The one that makes them too many, or enough.
      const decisive = first + this.deciding(count);
      if (this.isUpper && decisive < first + count) return { ...common, outcome: 'broken', at: events[decisive] as number };
      if (!this.isUpper && this.holds(count)) return { ...common, outcome: 'met', at: decisive < first ? begin : (events[decisive] as number) };
      if (end < until) return { from: begin, until, outcome: 'open', at: end };
      return { ...common, outcome: this.isUpper ? 'met' : 'broken', at: until };
    });
  }

  /** The place, from 0, of the event with which a count passes its upper limit, or reaches its lower one; −1 where none is needed. */
  private deciding(count: number): number {
    const { operator, value } = this.limit;
    const needed = { '<': Math.ceil(value), '<=': Math.floor(value) + 1, '>': Math.floor(value) + 1, '>=': Math.ceil(value) }[operator];
    return Math.min(needed, count + 1) - 1;
  }

  /** `between E1 and E2 at least D`: met as soon as D has passed. */
  private distant(begin: number, next: number | undefined): Obligation {
    const { until: end } = this.signals.trace;
    const until = addTime(begin, this.limit.value);
    if (next !== undefined && next < until) return { from: begin, until, outcome: 'broken', at: next, margin: marginOf(next - until) };
    if (end < until) return { from: begin, until, outcome: 'open', at: end };
    return { from: begin, until, outcome: 'met', at: until, margin: marginOf((next ?? end) - until, next === undefined) };
  }

  private ofStep(measure: Measure & { k: 'step' }, step: Step): Obligation {
    const { at, end } = step;
    const over = step.upward ? measure.gap : negative(measure.gap);
    // biome-ignore lint/nursery/useExhaustiveSwitchCases: a measure of steps has no other kind
    switch (measure.kind) {
      case 'overshoot': {
        const most = this.greatest(over, at, end, step.isLast);
        if (most === undefined) return this.missing(at, end);
        const limit = (this.limit.value / 100) * step.size;
        const overshoot = atLimit((100 * Math.max(0, most)) / step.size, this.limit.value, (100 * levelOf(step)) / step.size);
        const passed = this.passes(overshoot) ? this.firstBeyond(over, limit, at, end, step.isLast) : undefined;
        return this.figure(at, end, passed ?? end, overshoot);
      }
      case 'steady error': {
        const most = this.greatest(size(measure.gap), end - lastPart * (end - at), end, step.isLast);
        if (most === undefined) return this.missing(at, end);
        const inUnit = this.limit.unit === '%' ? 100 / step.size : 1;
        return this.figure(at, end, end, atLimit(most * inUnit, this.limit.value, levelOf(step) * inUnit));
      }
      case 'rise time': {
        const way = step.upward ? minus(measure.value, real(step.from)) : minus(real(step.from), measure.value);
        const reach = (share: number): number | undefined =>
          firstIn(scan(minus(way, real(share * step.size)), false, this.signals).timeline(false), 1, {
            from: at,
            until: end,
            fromIncluded: true,
            untilIncluded: true,
          });
        const begin = reach(riseFrom);
        if (begin !== undefined) return this.timed(begin, end, reach(riseTo), at);
        // Without its beginning the time has none; it may still begin as long as the reference stays.
        if (step.isLast || !this.passes(timeBetween(at, end)))
          return { from: at, until: end, outcome: 'open', at: end, reason: 'a tenth of the step was not reached' };
        return { from: at, until: end, outcome: 'broken', at: end };
      }
      case 'settling': {
        const { relative, value } = measure.band ?? { relative: true, value: 0.02 };
        const inside = scan(minus(real(relative ? value * step.size : value), size(measure.gap)), false, this.signals).timeline(false);
        const outside = stretches(negated(inside)).filter((one) => one.until > at && one.from < end);
        const last = outside.at(-1);
        const settled = last === undefined ? at : last.until >= end ? undefined : last.until;
        return { ...this.timed(at, end, settled), ...this.unsettled(at, outside) };
      }
    }
  }

  /** An upper limit of settling is broken once it has passed and the signal lies outside, be it anew. */
  private unsettled(at: number, outside: readonly Stretch[]): { readonly at?: number } {
    if (!this.isUpper) return {};
    const deadline = addTime(at, this.limit.value);
    const late = outside.find((one) => this.passes(timeBetween(at, one.until)));
    return late ? { at: Math.max(deadline, late.from) } : {};
  }

  private whole(kind: 'peak' | 'rms' | 'mean', value: Node): Obligation[] {
    const looked = this.looked();
    const [first, last] = [looked[0], looked.at(-1)];
    if (!first || !last) return [];
    const [from, until] = [first.from, last.until];
    if (kind === 'peak') {
      const peaks = looked.map((one) => this.greatest(value, one.from, one.until, one.untilIncluded));
      if (!peaks.every((one) => one !== undefined)) return [this.missing(from, until)];
      const broke = looked
        .map((one) => this.firstBeyond(value, this.limit.value, one.from, one.until, one.untilIncluded))
        .find((t) => t !== undefined);
      return [
        this.figure(
          from,
          until,
          broke ?? until,
          peaks.reduce((most, one) => Math.max(most, one)),
        ),
      ];
    }
    const [length, integral] = [new Sum(), new Sum()];
    for (const one of looked) {
      length.add(one.until - one.from);
      integral.add(this.integral(value, kind === 'rms', one.from, one.until));
    }
    if (length.value === 0) return [];
    const mean = integral.value / length.value;
    if (!Number.isFinite(mean)) return [this.missing(from, until)];
    const figure = kind === 'rms' ? Math.sqrt(mean) : mean;
    return [this.figure(from, until, until, atLimit(figure, this.limit.value, Math.abs(figure)))];
  }

  /** First instant at which a quantity has passed an upper limit. */
  private firstBeyond(value: Node, limit: number, from: number, until: number, closed: boolean): number | undefined {
    if (!this.isUpper) return undefined;
    const over = scan(minus(value, real(limit)), false, this.signals).timeline(this.limit.operator === '<=');
    return firstIn(over, 1, { from, until, fromIncluded: true, untilIncluded: closed });
  }

  /** Integral of a signal, or of its square, over a stretch; exact for signals that are held or run straight. */
  private integral(value: Node, squared: boolean, from: number, until: number): number {
    if (value.k === 'const') return (until - from) * (squared ? value.value ** 2 : value.value);
    const column = value.k === 'slot' ? this.signals.column(value.slot) : undefined;
    const time = column && this.signals.trace.bases[column.base];
    if (!column || !time) return Number.NaN;
    const { data, between } = column;
    const sum = new Sum();
    for (let row = 0; row < data.length; row += 1) {
      const [begun, ended] = [time[row] as number, time[row + 1] ?? this.signals.trace.until];
      const [low, high] = [Math.max(from, begun), Math.min(until, ended)];
      if (!(high > low)) continue;
      const value = data[row] as number;
      const slope = between === 'held' || row + 1 >= data.length ? 0 : ((data[row + 1] as number) - value) / (ended - begun);
      const [a, b] = [
        value + (low - begun) * slope,
        high === ended && row + 1 < data.length && between !== 'held' ? (data[row + 1] as number) : value + (high - begun) * slope,
      ];
      sum.add((high - low) * (squared ? (a * a + a * b + b * b) / 3 : (a + b) / 2));
    }
    return sum.value;
  }

  private greatest(node: Node, from: number, until: number, closed: boolean): number | undefined {
    const { value, complete } = scan(negative(node), false, this.signals).least(from, until, closed);
    return complete && Number.isFinite(value) ? -value : undefined;
  }

  private steps(reference: Node, value: Node): Step[] {
    const { trace } = this.signals;
    const levels = this.levels(reference);
    return levels.flatMap(({ at, level }, index) => {
      const end = levels[index + 1]?.at ?? trace.until;
      const from = scan(value, false, this.signals).least(at, at, true).value;
      const step = level - from;
      if (!(Math.abs(step) > smallestStep * Math.max(1, Math.abs(level), Math.abs(from)))) return [];
      return [{ at, end, isLast: index === levels.length - 1, from, size: Math.abs(step), upward: step > 0 }];
    });
  }

  /** Where the reference changes, and to what; a parameter is one level. */
  private levels(reference: Node): { at: number; level: number }[] {
    const { trace } = this.signals;
    if (reference.k === 'const') return [{ at: trace.from, level: reference.value }];
    const column = reference.k === 'slot' ? this.signals.column(reference.slot) : undefined;
    const time = column && trace.bases[column.base];
    if (!column || !time) return reference.k === 'slot' ? [{ at: trace.from, level: this.signals.constant(reference.slot) }] : [];
    const levels: { at: number; level: number }[] = [];
    column.data.forEach((level, row) => {
      if (level === levels.at(-1)?.level) return;
      const at = time[row] as number;
      // Of two rows for one instant the second counts.
      if (levels.at(-1)?.at === at) levels.pop();
      levels.push({ at, level });
    });
    return levels;
  }

  /**
   * A time from `from` on that was over at `at`, or not before `end`: open while it could still keep to its limit. An upper limit is broken when it has passed,
   * not when the time is over at last.
   * @param owed from when on it was owed, where that is earlier
   */
  private timed(from: number, end: number, at: number | undefined, owed = from): Obligation {
    const { value } = this.limit;
    const deadline = addTime(from, value);
    const elapsed = timeBetween(from, at ?? end);
    const common = { from: owed, until: end };
    if (this.isUpper && this.passes(elapsed))
      return { ...common, outcome: 'broken', at: Math.min(deadline, at ?? end), margin: this.margin(elapsed, at === undefined) };
    if (at !== undefined) return { ...this.figure(from, end, at, elapsed), ...common };
    if (this.isUpper || !this.holds(elapsed)) return { ...common, outcome: 'open', at: end };
    return { ...common, outcome: 'met', at: Math.min(deadline, end), margin: this.margin(elapsed, true) };
  }

  private holds(value: number): boolean {
    const { operator, value: limit } = this.limit;
    return { '<': value < limit, '<=': value <= limit, '>': value > limit, '>=': value >= limit }[operator];
  }

  private figure(from: number, until: number, at: number, value: number): Obligation {
    return { from, until, outcome: this.holds(value) ? 'met' : 'broken', at, margin: this.margin(value) };
  }

  private margin(value: number, atLeast = false): Margin {
    const { value: limit, unit } = this.limit;
    const distance = this.isUpper ? limit - value : value - limit;
    return unit === 's' ? marginOf(distance, atLeast) : { value: distance, unit: unitOfDifference(unit), measure: distance / (Math.abs(limit) || 1) };
  }

  private missing(from: number, until: number): Obligation {
    return { from, until, outcome: 'open', at: until, reason: 'a value is missing inside the obligation' };
  }
}

/** Size of the levels of a step, from and to. */
const levelOf = (step: Step): number => Math.abs(step.from) + step.size;

const isSame = (a: Stretch, b: Stretch): boolean =>
  a.from === b.from && a.until === b.until && a.fromIncluded === b.fromIncluded && a.untilIncluded === b.untilIncluded;

function lengthOf(found: readonly Stretch[]): number {
  return found.reduce((sum, one) => addTime(sum, timeBetween(one.from, one.until)), 0);
}

function nextOf(instants: readonly number[], t: number): number | undefined {
  const next = firstAfter(instants, t);
  return Number.isFinite(next) ? next : undefined;
}

function countBefore(instants: readonly number[], t: number): number {
  const count = countUntil(instants, t);
  return instants[count - 1] === t ? count - 1 : count;
}
