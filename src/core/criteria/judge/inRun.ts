import { encode } from '@/core/exchange';
import type { Trace } from '@/core/trace';
import { withRates } from '../truth/rates';
import { type Signals, scan } from '../truth/scan';
import { addTime } from '../truth/seconds';
import { combined, negated, rises, stretches, type Timeline, truthBefore } from '../truth/timeline';
import type { Atom, Condition, Criterion, Event, Trigger } from '../types';

/** Every number of a criterion and its opposite, limits among them: which of them a rate is compared with does not matter to one that is none of them. */
function numbersIn(criterion: unknown): number[] {
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

/** When the conditions and events that a criterion is made of were so in one run. */
export class InRun {
  readonly signals: Signals;
  readonly trace: Trace;
  private readonly atoms: readonly Atom[];
  /** Timelines of the atoms and of what must hold, each made when it is first asked for: a margin above 0 often says enough. */
  private readonly lines: Map<string, Timeline>;

  /** @param criterion what conditions and events are of: their atoms, with whatever stands beside them */
  constructor(criterion: Pick<Criterion, 'atoms'>, signals: Signals) {
    this.atoms = criterion.atoms;
    this.signals = withRates(signals, numbersIn(criterion));
    this.trace = signals.trace;
    this.lines = linesOfRuns.get(signals) ?? new Map<string, Timeline>();
    linesOfRuns.set(signals, this.lines);
  }

  /** When an atom is true. @param index its number among those of the criterion */
  line(index: number): Timeline {
    const atom = this.atoms[index] as Atom;
    const key = encode(atom);
    const known = this.lines.get(key);
    if (known) return known;
    const line =
      atom.k === 'bound' ? scan(atom.distance, false, this.signals).timeline(atom.strict) : scan(atom.value, true, this.signals).timeline(false);
    this.lines.set(key, line);
    return line;
  }

  /** When a condition holds. */
  timeline(condition: Condition): Timeline {
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
  triggers(event: Trigger, during?: Condition): number[] {
    const events = this.instants(event);
    if (!during) return events;
    const line = this.timeline(during);
    return events.filter((t) => truthBefore(line, t) === 1);
  }

  private instants(trigger: Trigger): number[] {
    if (trigger.k === 'start') return [this.trace.from];
    if (trigger.k !== 'lasts') return this.events(trigger);
    const { seconds } = trigger;
    // Held on [from, from + D) it has lasted D, also where it ends just then.
    return stretches(this.timeline(trigger.of)).flatMap(({ from, until }) => (addTime(from, seconds) <= until ? [addTime(from, seconds)] : []));
  }

  /** When an event occurs. */
  events(event: Event): number[] {
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
