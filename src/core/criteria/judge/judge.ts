import { Followed } from '../truth/followed';
import type { Signals } from '../truth/scan';
import { addTime } from '../truth/seconds';
import { type Stretch, stretches } from '../truth/timeline';
import type { Condition, Criterion, Judgement, Obligation, Verdict } from '../types';
import { inOrder } from './inOrder';
import { InRun } from './inRun';
import { Measures } from './measures';
import { Windows } from './windows';

/**
 * Judges one criterion on one trace, exactly as docs/language.md lays down: finds the obligations, decides each by logic,
 * and gives each the margin that explains it.
 */
export function judge(criterion: Criterion, signals: Signals): Judgement {
  return judgementOf(new Judge(criterion, signals).obligations());
}

/** What obligations make of their criterion. */
export function judgementOf(obligations: readonly Obligation[]): Judgement {
  const worst = worstOf(obligations);
  return { verdict: verdictOf(obligations), obligations, ...(worst === undefined ? {} : { worst }) };
}

/** The part of a stretch before which it has lasted for so long; none of one that is shorter. */
function afterLasting(stretch: Stretch, seconds: number | undefined): Stretch | undefined {
  if (seconds === undefined) return stretch;
  const from = addTime(stretch.from, seconds);
  const isInstant = from === stretch.until && stretch.fromIncluded && stretch.untilIncluded;
  return from < stretch.until || isInstant ? { ...stretch, from } : undefined;
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

class Judge {
  private readonly run: InRun;

  constructor(
    private readonly criterion: Criterion,
    signals: Signals,
  ) {
    this.run = new InRun(criterion, signals);
  }

  obligations(): Obligation[] {
    const { pattern } = this.criterion;
    const { run } = this;
    const { from, until } = run.trace;
    if ((run.trace.bases[0]?.length ?? 0) === 0) return [];
    switch (pattern.k) {
      case 'always': {
        const hidden = hiddenCondition(pattern.holds);
        if (hidden && stretches(run.timeline(hidden)).length === 0) return [];
        return [this.windows(pattern.holds).throughout({ from, until, fromIncluded: true, untilIncluded: true })];
      }
      case 'while': {
        const windows = this.windows(pattern.holds);
        return stretches(run.timeline(pattern.during)).flatMap((stretch) => {
          const owed = afterLasting(stretch, pattern.seconds);
          return owed ? [windows.throughout(owed)] : [];
        });
      }
      case 'when': {
        const windows = this.windows(pattern.holds);
        const { timing } = pattern;
        const release = timing.k === 'until' ? run.timeline(timing.release) : undefined;
        return run.triggers(pattern.event, pattern.during).map((t) => windows.owed(timing, t, release));
      }
      case 'measure':
        return new Measures(run.signals, pattern.limit, run, pattern.scope).obligations(pattern.measure);
      case 'sequence':
        return inOrder(
          pattern.events.map((event) => run.events(event)),
          pattern.seconds,
          until,
        );
    }
  }

  private windows(holds: Condition): Windows {
    const { atoms } = this.criterion;
    const { run } = this;
    const followed = new Followed(holds, atoms, run.signals, { line: () => run.timeline(holds), ofAtom: (atom) => run.line(atom) });
    return new Windows(followed, run.trace.until);
  }
}
