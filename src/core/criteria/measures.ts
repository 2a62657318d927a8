import type { Node } from '../plan';
import { type Signals, scan } from './scan';
import { marginOf } from './seconds';
import { firstIn, negated, stretches, type Timeline } from './timeline';
import type { Condition, Event, Margin, Measure, MeasureLimit, Obligation } from './types';

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

const real = (value: number): Node => ({ k: 'const', type: 'LREAL', value });
const minus = (a: Node, b: Node): Node => ({ k: 'arithmetic', type: 'LREAL', operator: '-', a, b, site: 0 });
const negative = (a: Node): Node => ({ k: 'negate', type: 'LREAL', a, site: 0 });
const size = (a: Node): Node => ({ k: 'call', type: 'LREAL', fn: 'ABS', operands: [a], site: 0 });

/** Steps smaller than this share of the larger of both levels are none. */
const smallestStep = 1e-9;
/** Rise is from the first of these shares of the step to the second; the steady error is looked at in the last part of the time a step lasts. */
const riseFrom = 0.1;
const riseTo = 0.9;
const lastPart = 0.1;

/**
 * Obligations of a measure: one for each step of the reference (after Ogata, Modern Control Engineering: overshoot, rise from 10 to 90 %, settling into a band for good), one over the run, or one for each
 * event from which time is taken. A figure that is not known when the run ends leaves its obligation open, unless the limit has been passed already.
 */
export class Measures {
  constructor(
    private readonly signals: Signals,
    private readonly limit: MeasureLimit,
    private readonly lent: Lent,
  ) {}

  obligations(measure: Measure): Obligation[] {
    const { from, until } = this.signals.trace;
    switch (measure.k) {
      case 'step':
        return this.steps(measure.reference, measure.value).map((step) => this.ofStep(measure, step));
      case 'whole':
        return [this.whole(measure.kind, measure.value)];
      case 'duration':
        return [
          this.figure(
            from,
            until,
            until,
            stretches(this.lent.timeline(measure.of)).reduce((sum, one) => sum + one.until - one.from, 0),
          ),
        ];
      case 'count':
        return [this.figure(from, until, until, this.lent.events(measure.of).length)];
      case 'time': {
        const ends = this.lent.events(measure.to);
        return this.lent.events(measure.from).map((begin) =>
          this.reached(
            begin,
            until,
            ends.find((end) => end >= begin),
          ),
        );
      }
    }
  }

  private ofStep(measure: Measure & { k: 'step' }, step: Step): Obligation {
    const { at, end } = step;
    const over = step.upward ? measure.gap : negative(measure.gap);
    switch (measure.kind) {
      case 'overshoot': {
        const most = this.greatest(over, at, end, step.isLast);
        return most === undefined ? this.missing(at, end) : this.figure(at, end, end, (100 * Math.max(0, most)) / step.size);
      }
      case 'steady error': {
        const most = this.greatest(size(measure.gap), end - lastPart * (end - at), end, step.isLast);
        return most === undefined ? this.missing(at, end) : this.figure(at, end, end, this.limit.unit === '%' ? (100 * most) / step.size : most);
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
        return this.reached(begin ?? at, end, begin === undefined ? undefined : reach(riseTo));
      }
      case 'settling': {
        const { relative, value } = measure.band ?? { relative: true, value: 0.02 };
        const inside = scan(minus(real(relative ? value * step.size : value), size(measure.gap)), false, this.signals).timeline(false);
        const outside = stretches(negated(inside)).filter((one) => one.until > at && one.from < end);
        const last = outside.at(-1);
        const settled = last === undefined ? at : last.until >= end ? undefined : last.until;
        return this.reached(at, end, settled);
      }
    }
  }

  private whole(kind: 'peak' | 'rms' | 'mean', value: Node): Obligation {
    const { from, until } = this.signals.trace;
    if (kind === 'peak') {
      const most = this.greatest(value, from, until, true);
      return most === undefined ? this.missing(from, until) : this.figure(from, until, until, most);
    }
    const mean = this.integral(value, kind === 'rms') / (until - from);
    return Number.isFinite(mean) ? this.figure(from, until, until, kind === 'rms' ? Math.sqrt(mean) : mean) : this.missing(from, until);
  }

  /** Integral of a signal, or of its square, exact for signals that are held or run straight. */
  private integral(value: Node, squared: boolean): number {
    const column = value.k === 'slot' ? this.signals.column(value.slot) : undefined;
    const time = column && this.signals.trace.bases[column.base];
    if (!column || !time) return Number.NaN;
    const { data, between } = column;
    let sum = 0;
    for (let row = 0; row < data.length; row += 1) {
      const length = (time[row + 1] ?? this.signals.trace.until) - (time[row] as number);
      const a = data[row] as number;
      const b = between === 'held' || row + 1 >= data.length ? a : (data[row + 1] as number);
      sum += length * (squared ? (a * a + a * b + b * b) / 3 : (a + b) / 2);
    }
    return sum;
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

  /** A time that was reached at `at`, or not before the end: open while it could still keep to its limit. */
  private reached(from: number, end: number, at: number | undefined): Obligation {
    if (at !== undefined) return this.figure(from, end, at, at - from);
    const { operator, value } = this.limit;
    const elapsed = end - from;
    const known = operator === '<' || operator === '<=' ? elapsed > value : elapsed >= value;
    return known ? { ...this.figure(from, end, end, elapsed), ...this.atLeast(elapsed) } : { from, until: end, outcome: 'open', at: end };
  }

  private atLeast(elapsed: number): { margin: Margin } {
    return { margin: { ...this.margin(elapsed), atLeast: true } };
  }

  private figure(from: number, until: number, at: number, value: number): Obligation {
    const { operator, value: limit } = this.limit;
    const holds = { '<': value < limit, '<=': value <= limit, '>': value > limit, '>=': value >= limit }[operator];
    return { from, until, outcome: holds ? 'met' : 'broken', at, margin: this.margin(value) };
  }

  private margin(value: number): Margin {
    const { operator, value: limit, unit } = this.limit;
    const distance = operator === '<' || operator === '<=' ? limit - value : value - limit;
    return unit === 's' ? marginOf(distance) : { value: distance, unit, measure: distance / (Math.abs(limit) || 1) };
  }

  private missing(from: number, until: number): Obligation {
    return { from, until, outcome: 'open', at: until, reason: 'a value is missing inside the obligation' };
  }
}
