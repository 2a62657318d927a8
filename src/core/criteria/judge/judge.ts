import { encode } from '@/core/exchange';
import type { Trace } from '@/core/trace';
import { Followed } from '../truth/followed';
import { withRates } from '../truth/rates';
import { type Signals, scan } from '../truth/scan';
import { addTime } from '../truth/seconds';
import { combined, negated, rises, stretches, type Timeline, truthBefore } from '../truth/timeline';
import type { Atom, Condition, Criterion, Event, Judgement, Obligation, Pattern, Trigger, Verdict } from '../types';
import { inOrder } from './inOrder';
import { Measures } from './measures';
import { Windows } from './windows';

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

/** Every number of a criterion and its opposite, limits among them: which of them a rate is compared with does not matter to one that is none of them. */
function numbersIn(criterion: Criterion): number[] {
  const found = new Set<number>();
  const visit = (value: unknown): void => {
    if (typeof value === 'number') found.add(value).add(-value);
    else if (typeof value === 'object' && value !== null) for (const one of Object.values(value)) visit(one);
  };
  visit(criterion);
  return [...found];
}

/** Timelines of a run by their atom: many criteria speak of the same states. */
const linesOfRuns = new WeakMap<Signals, Map<string, Timeline>>();

class Judge {
  private readonly signals: Signals;
  private readonly trace: Trace;
  /** Timelines of the atoms and of what must hold, each made when it is first asked for: a margin above 0 often says enough. */
  private readonly lines: Map<string, Timeline>;

  constructor(
    private readonly criterion: Criterion,
    signals: Signals,
  ) {
    this.signals = withRates(signals, numbersIn(criterion));
    this.trace = signals.trace;
    this.lines = linesOfRuns.get(signals) ?? new Map<string, Timeline>();
    linesOfRuns.set(signals, this.lines);
  }

  obligations(): Obligation[] {
    const { pattern } = this.criterion;
    const { from, until } = this.trace;
    if ((this.trace.bases[0]?.length ?? 0) === 0) return [];
    switch (pattern.k) {
      case 'always': {
        const hidden = hiddenCondition(pattern.holds);
        if (hidden && stretches(this.timeline(hidden)).length === 0) return [];
        return [this.windows(pattern.holds).throughout({ from, until, fromIncluded: true, untilIncluded: true })];
      }
      case 'while': {
        const windows = this.windows(pattern.holds);
        return stretches(this.timeline(pattern.during)).map((stretch) => windows.throughout(stretch));
      }
      case 'when': {
        const windows = this.windows(pattern.holds);
        const { timing } = pattern;
        const release = timing.k === 'until' ? this.timeline(timing.release) : undefined;
        return this.triggers(pattern).map((t) => windows.owed(timing, t, release));
      }
      case 'measure':
        return new Measures(
          this.signals,
          pattern.limit,
          { timeline: (of) => this.timeline(of), events: (of) => this.events(of) },
          pattern.scope,
        ).obligations(pattern.measure);
      case 'sequence':
        return inOrder(
          pattern.events.map((event) => this.events(event)),
          pattern.seconds,
          until,
        );
    }
  }

  private windows(holds: Condition): Windows {
    const { atoms } = this.criterion;
    const followed = new Followed(holds, atoms, this.signals, { line: () => this.timeline(holds), ofAtom: (atom) => this.line(atom) });
    return new Windows(followed, this.trace.until);
  }

  private line(index: number): Timeline {
    const atom = this.criterion.atoms[index] as Atom;
    const key = encode(atom);
    const known = this.lines.get(key);
    if (known) return known;
    const line =
      atom.k === 'bound' ? scan(atom.distance, false, this.signals).timeline(atom.strict) : scan(atom.value, true, this.signals).timeline(false);
    this.lines.set(key, line);
    return line;
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
    const events = this.instants(pattern.event);
    if (!pattern.during) return events;
    const during = this.timeline(pattern.during);
    return events.filter((t) => truthBefore(during, t) === 1);
  }

  private instants(trigger: Trigger): number[] {
    if (trigger.k === 'start') return [this.trace.from];
    if (trigger.k !== 'lasts') return this.events(trigger);
    const { seconds } = trigger;
    // Held on [from, from + D) it has lasted D, also where it ends just then.
    return stretches(this.timeline(trigger.of)).flatMap(({ from, until }) => (addTime(from, seconds) <= until ? [addTime(from, seconds)] : []));
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
}
