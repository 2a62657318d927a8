import { type Criterion, judge, type Margin, type Obligation, type Signals } from '@/core/criteria';

/** How a criterion stands while the run goes on. */
export interface Standing {
  readonly met: number;
  readonly broken: number;
  readonly open: number;
  /** Begun before what is kept exactly, and not followed to their end. */
  readonly lost: number;
  /** The least so far. */
  readonly margin?: Margin;
  /** The one begun last. */
  readonly latest?: Obligation;
}

/** What was decided before the rows of it were let go. */
interface Carried {
  readonly met: number;
  readonly broken: number;
  readonly lost: number;
  readonly margin?: Margin;
}

const nothing: Carried = { met: 0, broken: 0, lost: 0 };

/**
 * How watched criteria stand over a session whose old rows are let go: what was decided by then is carried on. What is owed over a whole run (invariants, peaks, sums, counts) is judged
 * over what is kept exactly, and once broken stays so.
 */
export class Standings {
  private readonly carried: Carried[];

  constructor(private readonly criteria: readonly Criterion[]) {
    this.carried = criteria.map(() => nothing);
  }

  at(signals: Signals): Standing[] {
    return this.criteria.map((criterion, index) => {
      const before = this.carried[index] ?? nothing;
      const { obligations, worst } = judge(criterion, signals);
      const count = (outcome: Obligation['outcome']): number => obligations.filter((one) => one.outcome === outcome).length;
      const margin = lesser(before.margin, worst === undefined ? undefined : obligations[worst]?.margin);
      const latest = obligations.at(-1);
      // An invariant that was broken once is one obligation, and broken.
      const isSettled = isOfWholeRun(criterion) && before.broken > 0;
      return {
        met: before.met + (isSettled ? 0 : count('met')),
        broken: before.broken + (isSettled ? 0 : count('broken')),
        open: isSettled ? 0 : count('open'),
        lost: before.lost,
        ...(margin ? { margin } : {}),
        ...(latest ? { latest } : {}),
      };
    });
  }

  /**
   * Rows before an instant are about to be let go. No obligation may be cut in two.
   * @returns the instant up to which they may go: an earlier one, where something is still owed
   */
  letGo(signals: Signals, wanted: number): number {
    const judged = this.criteria.map((criterion) => (isOfWholeRun(criterion) ? [] : judge(criterion, signals).obligations));
    const straddling = judged.flat().filter((one) => one.from < wanted && (one.outcome === 'open' || Math.max(one.at, one.until) > wanted));
    // One that began long ago would keep everything: it cannot be followed to its end.
    const { from } = signals.trace;
    const oldest = from + (wanted - from) / 4;
    const cut = Math.min(wanted, ...straddling.flatMap((one) => (one.from > oldest ? [one.from] : [])));
    this.criteria.forEach((criterion, index) => {
      const before = this.carried[index] ?? nothing;
      const all = isOfWholeRun(criterion) ? judge(criterion, signals).obligations : (judged[index] ?? []);
      // What began before the cut is decided, and will not be seen again.
      const gone = all.filter((one) =>
        isOfWholeRun(criterion) ? one.outcome === 'broken' && one.at < cut : one.outcome !== 'open' && one.from < cut,
      );
      const count = (outcome: Obligation['outcome']): number => gone.filter((one) => one.outcome === outcome).length;
      const margin = gone.reduce<Margin | undefined>((least, one) => lesser(least, one.margin), before.margin);
      const broken = before.broken + (isOfWholeRun(criterion) && before.broken > 0 ? 0 : count('broken'));
      const lost = isOfWholeRun(criterion) ? 0 : all.filter((one) => one.outcome === 'open' && one.from < cut).length;
      this.carried[index] = { met: before.met + count('met'), broken, lost: before.lost + lost, ...(margin ? { margin } : {}) };
    });
    return cut;
  }
}

function isOfWholeRun({ pattern }: Criterion): boolean {
  if (pattern.k === 'always') return true;
  if (pattern.k === 'when') return pattern.timing.k === 'after' || (pattern.timing.k === 'until' && pattern.timing.seconds === undefined);
  if (pattern.k !== 'measure') return false;
  const { measure } = pattern;
  return measure.k === 'whole' || measure.k === 'duration' || (measure.k === 'count' && measure.seconds === undefined);
}

function lesser(a: Margin | undefined, b: Margin | undefined): Margin | undefined {
  if (!a || !b) return a ?? b;
  return b.measure < a.measure ? b : a;
}
