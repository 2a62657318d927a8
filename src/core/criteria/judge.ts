import type { Trace } from '../trace';
import { SpaceRobustness, TimeRobustness } from './robustness';
import { type Signals, scan } from './scan';
import { addTime, clean } from './seconds';
import { combined, entryAt, negated, rises, type Stretch, stretches, type Timeline, truthAt, truthBefore } from './timeline';
import type { Atom, Condition, Criterion, Event, Judgement, Margin, Obligation, Pattern, Timing, Verdict } from './types';

/**
 * Judges one criterion on one trace, exactly as docs/language.md lays down: finds the obligations, decides each by logic,
 * and gives each the margin that explains it.
 */
export function judge(criterion: Criterion, signals: Signals): Judgement {
  const obligations = new Judge(criterion, signals).obligations();
  const worst = worstOf(obligations);
  return { verdict: verdictOf(obligations), obligations, ...(worst === undefined ? {} : { worst }) };
}

/** Any broken: fail; else any met: pass; else any open: inconclusive; else none. */
export function verdictOf(obligations: readonly Obligation[]): Verdict {
  const has = (outcome: Obligation['outcome']): boolean => obligations.some((one) => one.outcome === outcome);
  if (has('broken')) return 'fail';
  if (has('met')) return 'pass';
  return has('open') ? 'inconclusive' : 'none';
}

/** The broken obligation with the least margin; without one, the least margin of those met; else of those open. */
function worstOf(obligations: readonly Obligation[]): number | undefined {
  const rank = { broken: 0, met: 1, open: 2 } as const;
  const measure = (one: Obligation): number => one.margin?.measure ?? Number.POSITIVE_INFINITY;
  let worst: number | undefined;
  obligations.forEach((one, index) => {
    const best = worst === undefined ? undefined : obligations[worst];
    if (!best || rank[one.outcome] < rank[best.outcome] || (one.outcome === best.outcome && measure(one) < measure(best))) worst = index;
  });
  return worst;
}

/**
 * The condition S hidden in an invariant `always (NOT S OR P)`, which says the same as `while S, P`.
 * Where S never held, nothing was owed: such a run is untriggered, not passed.
 */
export function hiddenCondition(holds: Condition): Condition | undefined {
  if (holds.k !== 'or') return undefined;
  if (holds.a.k === 'not') return holds.a.a;
  return holds.b.k === 'not' ? holds.b.a : undefined;
}

/** Timelines of a run by their atom: many criteria speak of the same states. */
const linesOfRuns = new WeakMap<Signals, Map<string, Timeline>>();

class Judge {
  private readonly trace: Trace;
  /** Timelines of the atoms and of what must hold, each made when it is first asked for: a margin above 0 often says enough. */
  private readonly lines: Map<string, Timeline>;
  private lineOfHolds: Timeline | undefined;
  private readonly space: SpaceRobustness;
  private readonly time: TimeRobustness;

  constructor(
    private readonly criterion: Criterion,
    private readonly signals: Signals,
  ) {
    this.trace = signals.trace;
    this.lines = linesOfRuns.get(signals) ?? new Map<string, Timeline>();
    linesOfRuns.set(signals, this.lines);
    const { holds } = criterion.pattern;
    this.space = new SpaceRobustness(holds, criterion.atoms, signals);
    this.time = new TimeRobustness(holds, (atom) => this.line(atom));
  }

  obligations(): Obligation[] {
    const { pattern } = this.criterion;
    const { from, until } = this.trace;
    if ((this.trace.bases[0]?.length ?? 0) === 0) return [];
    switch (pattern.k) {
      case 'always': {
        const hidden = hiddenCondition(pattern.holds);
        if (hidden && stretches(this.timeline(hidden)).length === 0) return [];
        return [this.throughout({ from, until, fromIncluded: true, untilIncluded: true })];
      }
      case 'while':
        return stretches(this.timeline(pattern.during)).map((stretch) => this.throughout(stretch));
      case 'when':
        return this.triggers(pattern).map((t) => this.owed(pattern.timing, t));
    }
  }

  private line(index: number): Timeline {
    const atom = this.criterion.atoms[index] as Atom;
    const key = JSON.stringify(atom);
    const known = this.lines.get(key);
    if (known) return known;
    const line =
      atom.k === 'bound' ? scan(atom.distance, false, this.signals).timeline(atom.strict) : scan(atom.value, true, this.signals).timeline(false);
    this.lines.set(key, line);
    return line;
  }

  private get holds(): Timeline {
    this.lineOfHolds ??= this.timeline(this.criterion.pattern.holds);
    return this.lineOfHolds;
  }

  private timeline(condition: Condition): Timeline {
    switch (condition.k) {
      case 'atom':
        return this.line(condition.atom);
      case 'not':
        return negated(this.timeline(condition.a));
      case 'and':
      case 'or':
        return combined(condition.k, this.timeline(condition.a), this.timeline(condition.b));
    }
  }

  /** Events at which the criterion is owed: `while` is judged just before the event, so that one which ends the state still counts. */
  private triggers(pattern: Pattern & { k: 'when' }): number[] {
    const events = this.events(pattern.event);
    if (!pattern.during) return events;
    const during = this.timeline(pattern.during);
    return events.filter((t) => truthBefore(during, t) === 1);
  }

  private events(event: Event): number[] {
    switch (event.k) {
      case 'rises':
        return rises(this.timeline(event.of));
      case 'falls':
        return rises(negated(this.timeline(event.of)));
      case 'changes':
        return this.changes(event.slot);
      case 'enters':
      case 'leaves':
        return this.marked(event) ?? rises(event.k === 'enters' ? this.timeline(event.of) : negated(this.timeline(event.of)));
    }
  }

  private changes(slot: number): number[] {
    const column = this.signals.column(slot);
    const base = column && this.trace.bases[column.base];
    if (!base) return [];
    const found: number[] = [];
    for (let row = 1; row < base.length; row += 1) {
      const [before, after] = [column.data[row - 1] as number, column.data[row] as number];
      if (before !== after && !Number.isNaN(before) && !Number.isNaN(after)) found.push(base[row] as number);
    }
    return [...new Set(found)];
  }

  /** Entries and exits that the chart itself noted; those of the very first instant are no events. */
  private marked(event: Event & { k: 'enters' | 'leaves' }): number[] | undefined {
    const { marks, from } = this.trace;
    if (event.mark === 0 || marks.time.length === 0) return undefined;
    const wanted = event.k === 'enters' ? 1 : 0;
    const found = [...marks.time].filter((t, i) => marks.mark[i] === event.mark && marks.entered[i] === wanted && t > from);
    return [...new Set(found)];
  }

  /** `always` over the run, `while` over each stretch. */
  private throughout(stretch: Stretch): Obligation {
    const { from, until, untilIncluded } = stretch;
    const { margin: inSpace, decides } = this.space.least(from, until, untilIncluded);
    if (inSpace && decides) return { from, until, margin: inSpace, outcome: 'met', at: until };
    const broken = this.first(0, stretch);
    const missing = broken === undefined ? this.first(2, stretch) : undefined;
    const margin = inSpace ?? this.timeMargin(this.time.least(from, until));
    const common = { from, until, ...(margin ? { margin } : {}) };
    if (broken !== undefined) return { ...common, outcome: 'broken', at: broken };
    if (missing !== undefined) return { from, until, outcome: 'open', at: missing, reason: undefinedReason };
    return { ...common, outcome: 'met', at: until };
  }

  private timeMargin(shift: number): Margin | undefined {
    return Number.isFinite(shift) ? { value: clean(shift), unit: 's', measure: shift } : undefined;
  }

  /** First instant in a stretch at which what must hold has the given truth. */
  private first(truth: 0 | 1 | 2, stretch: Stretch): number | undefined {
    const line = this.holds;
    const { from, until, fromIncluded, untilIncluded } = stretch;
    if (fromIncluded && (from < until || untilIncluded) && truthAt(line, from) === truth) return from;
    for (let i = entryAt(line, from); i < line.time.length; i += 1) {
      const t = line.time[i] as number;
      if (t > until || (t === until && !untilIncluded)) return undefined;
      if (t > from && line.point[i] === truth) return t;
      const end = line.time[i + 1] ?? line.until;
      const start = Math.max(t, from);
      if (line.span[i] === truth && start < Math.min(end, until)) return start;
    }
    return undefined;
  }

  private owed(timing: Timing, from: number): Obligation {
    switch (timing.k) {
      case 'at once':
        return this.atOnce(from);
      case 'within':
        return this.within(from, timing.seconds);
      case 'for':
        return this.lasting(from, timing.seconds);
    }
  }

  private atOnce(t: number): Obligation {
    const truth = truthAt(this.holds, t);
    const margin = this.space.least(t, t, true).margin ?? this.timeMargin(this.time.at(t));
    if (truth === 2) return { from: t, until: t, outcome: 'open', at: t, reason: undefinedReason };
    return { from: t, until: t, outcome: truth === 1 ? 'met' : 'broken', at: t, ...(margin ? { margin } : {}) };
  }

  private within(from: number, seconds: number): Obligation {
    const deadline = addTime(from, seconds);
    const end = this.trace.until;
    const whole: Stretch = { from, until: end, fromIncluded: true, untilIncluded: true };
    const came = this.first(1, whole);
    const missing = this.first(2, { ...whole, until: Math.min(came ?? deadline, deadline, end) });
    const inTime = came !== undefined && (came < deadline || (came === deadline && truthAt(this.holds, came) === 1));
    if (missing !== undefined) return { from, until: deadline, outcome: 'open', at: missing, reason: undefinedReason };
    const scaled = (value: number, atLeast = false): Margin => ({ value: clean(value), unit: 's', measure: value, ...(atLeast ? { atLeast } : {}) });
    if (inTime) return { from, until: deadline, outcome: 'met', at: came, margin: scaled(deadline - came) };
    if (end < deadline) return { from, until: deadline, outcome: 'open', at: end };
    return {
      from,
      until: deadline,
      outcome: 'broken',
      at: deadline,
      margin: came === undefined ? scaled(deadline - end, true) : scaled(deadline - came),
    };
  }

  /** `for D`: on [from, from + D). */
  private lasting(from: number, seconds: number): Obligation {
    const until = addTime(from, seconds);
    const end = this.trace.until;
    const seen: Stretch = { from, until: Math.min(until, end), fromIncluded: true, untilIncluded: end < until };
    const broken = this.first(0, seen);
    const missing = broken === undefined ? this.first(2, seen) : undefined;
    if (missing !== undefined) return { from, until, outcome: 'open', at: missing, reason: undefinedReason };
    const margin = this.space.least(from, seen.until, seen.untilIncluded).margin ?? this.heldMargin(from, seconds);
    const common = { from, until, ...(margin ? { margin } : {}) };
    if (broken !== undefined) return { ...common, outcome: 'broken', at: broken };
    if (end < until) return { ...common, outcome: 'open', at: end };
    return { ...common, outcome: 'met', at: until };
  }

  /** A Boolean condition: the time it held beyond (or short of) what was owed. */
  private heldMargin(from: number, seconds: number): Margin {
    const { until: end } = this.trace;
    const ended = this.first(0, { from, until: end, fromIncluded: true, untilIncluded: true });
    const value = (ended ?? end) - from - seconds;
    return { value: clean(value), unit: 's', measure: value, ...(ended === undefined ? { atLeast: true } : {}) };
  }
}

const undefinedReason = 'a value is missing inside the obligation';
