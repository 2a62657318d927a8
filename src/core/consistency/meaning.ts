import { type Condition, type Criterion, criterionSlots, type CriterionEvent as Event, hiddenCondition, type Trigger } from '@/core/criteria';
import { type SlotNumber, slotsRead } from '@/core/plan';
import { decimal, expression, instants, NotExpressible, signal, time, trigger } from './smt';

const all = (from: number, until: number, of: (at: number) => string): string => {
  const parts = Array.from({ length: Math.max(0, until - from) }, (_, index) => of(from + index));
  return parts.length === 0 ? 'true' : `(and ${parts.join(' ')} true)`;
};
const some = (from: number, until: number, of: (at: number) => string): string =>
  `(or ${Array.from({ length: Math.max(0, until - from) }, (_, index) => of(from + index)).join(' ')} false)`;

/** A criterion as questions: what starts it at the trigger's instant, and what is then owed. The meaning is that of docs/language.md for signals that are held. */
export class CriterionQuestion {
  constructor(readonly criterion: Criterion) {}

  condition(of: Condition, at: number): string {
    switch (of.k) {
      case 'atom': {
        const atom = this.criterion.atoms[of.atom];
        if (!atom) throw new NotExpressible('it has no such part');
        return atom.k === 'truth' ? expression(atom.value, at) : `(${atom.strict ? '>' : '>='} ${expression(atom.distance, at)} 0.0)`;
      }
      case 'not':
        return `(not ${this.condition(of.a, at)})`;
      case 'and':
      case 'or':
        return `(${of.k} ${this.condition(of.a, at)} ${this.condition(of.b, at)})`;
    }
  }

  /** It is triggered at the trigger's instant; an invariant always is, but for one that hides a condition, which owes nothing where that never holds. */
  triggered(): string {
    const { pattern } = this.criterion;
    switch (pattern.k) {
      case 'always': {
        const hidden = hiddenCondition(pattern.holds);
        return hidden ? this.condition(hidden, trigger) : 'true';
      }
      case 'while':
        if (pattern.seconds !== undefined) throw new NotExpressible('it waits until a condition has lasted');
        return this.condition(pattern.during, trigger);
      case 'when': {
        const during = pattern.during ? ` ${this.condition(pattern.during, trigger - 1)}` : '';
        return `(and ${this.event(pattern.event)}${during})`;
      }
      case 'sequence':
        throw new NotExpressible('it is a sequence');
      case 'measure':
        throw new NotExpressible('it is a measure');
    }
  }

  /** What is owed from then on is met; an invariant holds all the time. */
  met(): string {
    const { pattern } = this.criterion;
    const holds = (at: number): string => ('holds' in pattern ? this.condition(pattern.holds, at) : 'true');
    if (pattern.k === 'always') return all(0, instants, holds);
    if (pattern.k === 'while') return all(0, instants, (at) => `(=> ${this.condition(pattern.during, at)} ${holds(at)})`);
    if (pattern.k === 'sequence' || pattern.k === 'measure') throw new NotExpressible(`it is a ${pattern.k}`);
    const after = (seconds: number): string => `(+ ${time(trigger)} ${decimal(seconds)})`;
    const { timing } = pattern;
    switch (timing.k) {
      case 'at once':
        return holds(trigger);
      case 'within':
        return some(trigger, instants, (at) => `(and (<= ${time(at)} ${after(timing.seconds)}) ${holds(at)})`);
      case 'for':
        return all(trigger, instants, (at) => `(=> (< ${time(at)} ${after(timing.seconds)}) ${holds(at)})`);
      case 'after':
        return all(trigger, instants, (at) => (at + 1 < instants ? `(=> (> ${time(at + 1)} ${after(timing.seconds)}) ${holds(at)})` : holds(at)));
      case 'within for':
        return some(trigger, instants, (begin) => {
          const lasting = all(begin, instants, (at) => `(=> (< ${time(at)} (+ ${time(begin)} ${decimal(timing.lasting)})) ${holds(at)})`);
          return `(and (<= ${time(begin)} ${after(timing.seconds)}) ${lasting})`;
        });
      case 'between': {
        const before = all(trigger, instants, (at) => `(=> (< ${time(at)} ${after(timing.earliest)}) (not ${holds(at)}))`);
        return `(and ${before} ${some(trigger, instants, (at) => `(and (<= ${time(at)} ${after(timing.seconds)}) ${holds(at)})`)})`;
      }
      case 'until': {
        const { release, seconds } = timing;
        const released = some(trigger, instants, (end) => {
          const inTime = seconds === undefined ? 'true' : `(<= ${time(end)} ${after(seconds)})`;
          return `(and ${inTime} ${this.condition(release, end)} ${all(trigger, end, holds)})`;
        });
        return seconds === undefined ? `(or ${released} ${all(trigger, instants, holds)})` : released;
      }
    }
  }

  /** Signals of what must hold: those that the answer to the trigger can change. */
  answers(): ReadonlySet<SlotNumber> {
    const { pattern } = this.criterion;
    return 'holds' in pattern ? this.slotsIn(pattern.holds) : new Set();
  }

  slots(): ReadonlySet<SlotNumber> {
    return new Set(criterionSlots(this.criterion));
  }

  private event(event: Trigger): string {
    if (event.k === 'start') throw new NotExpressible('it speaks of the start of a run');
    if (event.k === 'lasts') {
      // Owed once for each stretch, when it has lasted so long: it began just then, or with the run.
      return some(0, trigger, (begin) => {
        const began = begin === 0 ? 'true' : `(not ${this.condition(event.of, begin - 1)})`;
        const held = all(begin, trigger, (at) => this.condition(event.of, at));
        return `(and (= ${time(begin)} (- ${time(trigger)} ${decimal(event.seconds)})) ${began} ${held})`;
      });
    }
    return this.happens(event);
  }

  private happens(event: Event): string {
    if (event.k === 'changes') return `(not (= ${signal(event.slot, trigger)} ${signal(event.slot, trigger - 1)}))`;
    const [before, now] = [this.condition(event.of, trigger - 1), this.condition(event.of, trigger)];
    return event.k === 'rises' || event.k === 'enters' ? `(and (not ${before}) ${now})` : `(and ${before} (not ${now}))`;
  }

  private slotsIn(of: Condition): Set<SlotNumber> {
    if (of.k === 'not') return this.slotsIn(of.a);
    if (of.k !== 'atom') return new Set([...this.slotsIn(of.a), ...this.slotsIn(of.b)]);
    const atom = this.criterion.atoms[of.atom];
    return atom ? slotsRead(atom.k === 'bound' ? atom.distance : atom.value) : new Set();
  }
}
