import type { Followed } from '../truth/followed';
import { addTime, marginOf } from '../truth/seconds';
import { firstIn, type Stretch, type Timeline, truthAt } from '../truth/timeline';
import type { Margin, Obligation, Timing } from '../types';

const undefinedReason = 'a value is missing inside the obligation';

const withMargin = (margin: Margin | undefined): { margin?: Margin } => (margin ? { margin } : {});

/** The windows in which something is owed, each decided by logic and explained by a margin. Times in seconds. */
export class Windows {
  /** @param end of the trace */
  constructor(
    private readonly holds: Followed,
    private readonly end: number,
  ) {}

  /** @param release when an `until` may end */
  owed(timing: Timing, from: number, release?: Timeline): Obligation {
    switch (timing.k) {
      case 'at once':
        return this.atOnce(from);
      case 'within':
        return this.within(from, timing.seconds);
      case 'for':
        return this.lasting(from, timing.seconds);
      case 'within for':
        return this.withinLasting(from, timing.seconds, timing.lasting);
      case 'after':
        return this.onwards(from, timing.seconds);
      case 'between':
        return this.between(from, timing.earliest, timing.seconds);
      case 'until':
        return this.until(from, release as Timeline, timing.seconds);
    }
  }

  /** `always` over the run, `while` over each stretch. */
  throughout(stretch: Stretch): Obligation {
    const { from, until, untilIncluded } = stretch;
    const { margin: inSpace, decides } = this.holds.leastInSpace(from, until, untilIncluded);
    if (inSpace && decides) return { from, until, margin: inSpace, outcome: 'met', at: until };
    const broken = this.holds.first(0, stretch);
    const missing = broken === undefined ? this.holds.first(2, stretch) : undefined;
    const common = { from, until, ...withMargin(inSpace ?? this.holds.leastInTime(from, until)) };
    if (broken !== undefined) return { ...common, outcome: 'broken', at: broken };
    if (missing !== undefined) return { from, until, outcome: 'open', at: missing, reason: undefinedReason };
    return { ...common, outcome: 'met', at: until };
  }

  private atOnce(t: number): Obligation {
    const truth = this.holds.at(t);
    const margin = this.holds.leastInSpace(t, t, true).margin ?? this.holds.inTimeAt(t);
    if (truth === 2) return { from: t, until: t, outcome: 'open', at: t, reason: undefinedReason };
    return { from: t, until: t, outcome: truth === 1 ? 'met' : 'broken', at: t, ...withMargin(margin) };
  }

  private within(from: number, seconds: number): Obligation {
    return this.comes(from, from, addTime(from, seconds));
  }

  /** `between D1 and D2`: not before D1, and no later than D2. The margin is the distance to the nearer end of the window. */
  private between(from: number, earliest: number, seconds: number): Obligation {
    const [opens, until] = [addTime(from, earliest), addTime(from, seconds)];
    const before: Stretch = { from, until: Math.min(opens, this.end), fromIncluded: true, untilIncluded: this.end < opens };
    const early = this.holds.first(1, before);
    const missing = this.holds.first(2, { ...before, until: Math.min(early ?? opens, before.until) });
    if (missing !== undefined) return { from, until, outcome: 'open', at: missing, reason: undefinedReason };
    if (early !== undefined) return { from, until, outcome: 'broken', at: early, margin: marginOf(early - opens) };
    if (this.end < opens) return { from, until, outcome: 'open', at: this.end };
    const found = this.comes(from, opens, until);
    if (found.outcome !== 'met') return found;
    return { ...found, margin: marginOf(Math.min(found.at - opens, until - found.at)) };
  }

  /** First coming true from `opens` on, which must not be later than the deadline. */
  private comes(from: number, opens: number, deadline: number): Obligation {
    const { end } = this;
    const whole: Stretch = { from: opens, until: end, fromIncluded: true, untilIncluded: true };
    const came = this.holds.first(1, whole);
    const missing = this.holds.first(2, { ...whole, until: Math.min(came ?? deadline, deadline, end) });
    const inTime = came !== undefined && (came < deadline || (came === deadline && this.holds.at(came) === 1));
    if (missing !== undefined) return { from, until: deadline, outcome: 'open', at: missing, reason: undefinedReason };
    if (inTime) return { from, until: deadline, outcome: 'met', at: came, margin: marginOf(deadline - came) };
    if (end < deadline) return { from, until: deadline, outcome: 'open', at: end };
    const margin = came === undefined ? marginOf(deadline - end, true) : marginOf(deadline - came);
    return { from, until: deadline, outcome: 'broken', at: deadline, margin };
  }

  /** `for D`: on [from, from + D). */
  private lasting(from: number, seconds: number): Obligation {
    const until = addTime(from, seconds);
    const { end } = this;
    const seen: Stretch = { from, until: Math.min(until, end), fromIncluded: true, untilIncluded: end < until };
    const broken = this.holds.first(0, seen);
    const missing = broken === undefined ? this.holds.first(2, seen) : undefined;
    if (missing !== undefined) return { from, until, outcome: 'open', at: missing, reason: undefinedReason };
    const margin = this.holds.leastInSpace(from, seen.until, seen.untilIncluded).margin ?? this.heldMargin(from, seconds);
    const common = { from, until, margin };
    if (broken !== undefined) return { ...common, outcome: 'broken', at: broken };
    if (end < until) return { ...common, outcome: 'open', at: end };
    return { ...common, outcome: 'met', at: until };
  }

  /** A Boolean condition: the time it held beyond (or short of) what was owed. */
  private heldMargin(from: number, seconds: number): Margin {
    const ended = this.holds.first(0, { from, until: this.end, fromIncluded: true, untilIncluded: true });
    return marginOf((ended ?? this.end) - from - seconds, ended === undefined);
  }

  /** `within D1 P for D2`: some start s no later than D1 with P on [s, s + D2). The margin is the time left at that start; for one too short, what it lacked. */
  private withinLasting(from: number, seconds: number, lasting: number): Obligation {
    const deadline = addTime(from, seconds);
    const until = addTime(deadline, lasting);
    const { inTime, whole } = this.attempts(from, deadline, lasting);
    const last = inTime.at(-1);
    const fits = whole !== undefined && inTime.includes(whole);
    const decided = fits ? addTime(whole.start, lasting) : Math.min(this.end, Math.max(deadline, last?.until ?? deadline));
    const missing = this.holds.first(2, { from, until: Math.min(decided, this.end), fromIncluded: true, untilIncluded: !fits });
    if (missing !== undefined) return { from, until, outcome: 'open', at: missing, reason: undefinedReason };
    if (fits) return { from, until, outcome: 'met', at: decided, margin: marginOf(deadline - whole.start) };
    // One that reaches the end of the trace may still last long enough.
    if (this.end < deadline || last?.goesOn) return { from, until, outcome: 'open', at: this.end };
    const lacked = inTime.reduce((most, one) => Math.max(most, one.until - one.start - lasting), Number.NEGATIVE_INFINITY);
    const late = whole === undefined ? marginOf(deadline - this.end, true) : marginOf(deadline - whole.start);
    return { from, until, outcome: 'broken', at: decided, margin: last === undefined ? late : marginOf(lacked) };
  }

  /** From `from` on: the attempts begun in time, and the first of all that lasted long enough. */
  private attempts(from: number, deadline: number, lasting: number): { readonly inTime: readonly Attempt[]; readonly whole?: Attempt } {
    const inTime: Attempt[] = [];
    for (const stretch of this.holds.stretchesFrom(from)) {
      const attempt = attemptOf(stretch, from, this.end);
      if (!attempt) continue;
      const { start, included } = attempt;
      if (start < deadline || (start === deadline && included)) inTime.push(attempt);
      if (lasts(attempt, lasting)) return { inTime, whole: attempt };
    }
    return { inTime };
  }

  /** `after D`: from then on to the end of the trace. */
  private onwards(from: number, seconds: number): Obligation {
    const start = addTime(from, seconds);
    if (this.end < start) return { from, until: start, outcome: 'open', at: this.end };
    return { ...this.throughout({ from: start, until: this.end, fromIncluded: true, untilIncluded: true }), from };
  }

  /** `P until Q`: P on [from, q), where q is the first instant of Q; with a time, q no later than that. Without a time Q need not come: at the end of the trace it is met, as an invariant is. */
  private until(from: number, release: Timeline, seconds: number | undefined): Obligation {
    const { end } = this;
    const deadline = seconds === undefined ? Number.POSITIVE_INFINITY : addTime(from, seconds);
    const whole: Stretch = { from, until: end, fromIncluded: true, untilIncluded: true };
    const q = firstIn(release, 1, whole);
    const onPoint = q !== undefined && truthAt(release, q) === 1;
    const inTime = q !== undefined && (q < deadline || (q === deadline && onPoint));
    const owed: Stretch = inTime
      ? { from, until: q, fromIncluded: true, untilIncluded: !onPoint }
      : { from, until: Math.min(deadline, end), fromIncluded: true, untilIncluded: true };
    const common = { from, until: Number.isFinite(deadline) ? deadline : (q ?? end) };
    const broken = this.holds.first(0, owed);
    const decided = broken ?? owed.until;
    const missing = this.missing(release, { ...owed, until: decided });
    if (missing !== undefined) return { ...common, outcome: 'open', at: missing, reason: undefinedReason };
    const margin = this.holds.leastInSpace(from, owed.until, owed.untilIncluded).margin ?? this.holds.leastInTime(from, owed.until);
    if (broken !== undefined) return { ...common, outcome: 'broken', at: broken, ...withMargin(margin) };
    const left = Number.isFinite(deadline) && q !== undefined ? marginOf(deadline - q) : undefined;
    if (inTime) return { ...common, outcome: 'met', at: q, ...withMargin(from === q && onPoint ? left : (margin ?? left)) };
    if (deadline === Number.POSITIVE_INFINITY) return { ...common, outcome: 'met', at: end, ...withMargin(margin) };
    if (end < deadline) return { ...common, outcome: 'open', at: end };
    return { ...common, outcome: 'broken', at: deadline, margin: left ?? marginOf(deadline - end, true) };
  }

  /** First instant at which what must hold, or what may end it, has no value. */
  private missing(release: Timeline, stretch: Stretch): number | undefined {
    const found = [this.holds.first(2, stretch), firstIn(release, 2, stretch)].flatMap((t) => t ?? []);
    return found.length > 0 ? Math.min(...found) : undefined;
  }
}

/** A stretch on which what must hold was true, cut at the trigger. */
interface Attempt {
  readonly start: number;
  /** What must hold was true at the very start, not only right after it. */
  readonly included: boolean;
  readonly until: number;
  /** True up to the end of the trace. */
  readonly goesOn: boolean;
}

function attemptOf(stretch: Stretch, from: number, end: number): Attempt | undefined {
  const { until, untilIncluded } = stretch;
  if (until < from || (until === from && !untilIncluded)) return undefined;
  const goesOn = until === end && untilIncluded;
  return stretch.from < from
    ? { start: from, included: true, until, goesOn }
    : { start: stretch.from, included: stretch.fromIncluded, until, goesOn };
}

/** After an excluded start, [s, s + D) begins a little later and ends a little later. */
function lasts({ start, included, until }: Attempt, seconds: number): boolean {
  const end = addTime(start, seconds);
  return end < until || (end === until && included);
}
