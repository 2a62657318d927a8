import { baseCycle, EvenController, Pauses, type Promptness } from '@/core/bench';
import { type Judgement, judgementOf, type Obligation, type Verdict } from '@/core/criteria';
import { type Host, recycleTrace } from '@/core/simulate';
import type { Trace } from '@/core/trace';
import { timeWords } from '@/core/wording';
import { type CriterionResult, type ExpectedOfCase, performRun, type RunResult, verdictOfRun } from '../run';
import type { BenchOrder } from './benchRun';

/** What a run has found, with what its pauses may have decided left open. */
export interface DecidedRun {
  readonly result: RunResult;
  /** Criteria, and expectations of the case, that pauses may have decided: they are open, or were never asked for. */
  readonly undecided: number;
}

/**
 * Leaves open what a run on a bench may have found only since the bench, or its controller, paused.
 *
 * A controller that answers as its model does should find what the model finds where nothing pauses. If it does not, and there was a pause before, the pause may be why.
 * Of any other controller (with a program of its own, or parted from the model) nobody knows what it would have done; there, what was owed while there was a pause is left open.
 * A pause counts if it is longer than a cycle of the bench, which is the bench's resolution; a margin in time is in doubt from any pause that is as long as the margin.
 *
 * @param answersAsModel the program is the build, and has not parted from its model
 * @param units makes the hosts of the co-simulation units in the plant
 */
export function leaveOpen(order: BenchOrder, result: RunResult, trace: Trace, answersAsModel: boolean, units: () => readonly Host[]): DecidedRun {
  const table = order.experiment.hosts?.[0]?.bench;
  if (!table) return { result, undecided: 0 };
  const pauses = new Pauses(trace, table, order.bench.program ? baseCycle(order.build) : undefined);
  const doubt = new Doubt(pauses, table.cycleNs / 1e9);
  if (!doubt.isThereAny(result)) return { result, undecided: 0 };
  const even = answersAsModel ? evenRuns(order, units) : undefined;
  return even ? againstEven(result, even, doubt) : bySpans(result, doubt);
}

/** What of the findings of a run its pauses put in doubt. */
class Doubt {
  constructor(
    private readonly pauses: Pauses,
    private readonly cycle: number,
  ) {}

  /** Something paused for longer than a cycle. */
  get isLong(): boolean {
    return this.pauses.longest(Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY) > this.cycle;
  }

  isThereAny({ results, expected }: RunResult): boolean {
    return (
      this.isLong ||
      results.some(({ obligations }) => obligations.some((one) => this.until(one) > 0)) ||
      expected.some((one) => this.until(asObligation(one)) > 0)
    );
  }

  /** The longest pause until an obligation was decided, if it puts that in doubt; else 0. */
  until(one: Obligation): number {
    return this.of(one, Number.NEGATIVE_INFINITY);
  }

  /** The longest pause while an obligation stood, if it puts in doubt what became of it; else 0. */
  during(one: Obligation): number {
    return this.of(one, one.from);
  }

  private of({ outcome, at, margin }: Obligation, from: number): number {
    if (outcome === 'open') return 0;
    const pause = this.pauses.longest(from, at);
    const inTime = margin?.unit === 's' ? Math.abs(margin.value) : undefined;
    const isDoubted = pause > this.cycle || (inTime !== undefined && pause >= inTime);
    return isDoubted ? pause : 0;
  }
}

/** The same case with the model of the controller where nothing pauses; nothing where the model cannot do what the case does. */
function evenRuns(order: BenchOrder, units: () => readonly Host[]): readonly RunResult[] | undefined {
  const { experiment, build, pins } = order;
  const table = experiment.hosts?.[0]?.bench;
  // Of some units there may be only one in a process, and the run has it.
  if (!table || order.units?.some(({ isAlone }) => isAlone)) return undefined;
  const promptnesses: readonly Promptness[] = ['at once', 'by the next exchange'];
  const runs = promptnesses.map((promptness) => {
    const controller = new EvenController(build, table, pins, experiment.seed, promptness);
    const { result, trace } = performRun(order, undefined, false, [...units(), controller]);
    recycleTrace(trace);
    return controller.hasLostBus || result.error ? undefined : result;
  });
  const sound = runs.filter((one) => one !== undefined);
  return sound.length === runs.length ? sound : undefined;
}

/** What differs from the model where nothing pauses, after a pause, is open. */
function againstEven(result: RunResult, even: readonly RunResult[], doubt: Doubt): DecidedRun {
  const verdictsOf = (index: number): Verdict[] => even.map(({ results }) => (results[index] as CriterionResult).verdict);
  const results = result.results.map((one, index): CriterionResult => {
    const verdicts = verdictsOf(index);
    const pause = Math.max(0, ...one.obligations.map((obligation) => doubt.until(obligation)));
    if (verdicts.includes(one.verdict) || pause === 0) return one;
    const model = `the controller answers as its model does, which ${modelWords[verdicts[0] as Verdict]} where nothing pauses`;
    return allOpen(one, `${pauseWords(pause)} by then; ${model}`);
  });
  const expected = result.expected.map((one, index): ExpectedOfCase => {
    const agrees = even.some(({ expected: all }) => all[index]?.outcome === one.outcome);
    return agrees || doubt.until(asObligation(one)) === 0 ? one : { ...one, outcome: 'open' };
  });
  // What was never asked for, or stayed open, is nothing that could be opened; another attempt may find it all the same.
  const isMissed = ({ verdict }: CriterionResult, index: number): boolean =>
    (verdict === 'none' || verdict === 'inconclusive') && !verdictsOf(index).includes(verdict);
  const missed = doubt.isLong
    ? result.results.filter(isMissed).length + Number(result.gaveUp !== undefined && even.some(({ gaveUp }) => !gaveUp))
    : 0;
  const opened = decided(result, results, expected);
  return { ...opened, undecided: opened.undecided + missed };
}

/** What was owed in a pause is open. Where something broken is in doubt, the rest of its criterion does not make it a pass. */
function bySpans(result: RunResult, doubt: Doubt): DecidedRun {
  const results = result.results.map((one): CriterionResult => {
    const pauseOf = new Map(one.obligations.map((obligation) => [obligation, doubt.during(obligation)]));
    const inDoubt = (pause: number): string => `${pauseWords(pause)} meanwhile, which may have decided it`;
    const stillBroken = one.obligations.some((obligation) => obligation.outcome === 'broken' && pauseOf.get(obligation) === 0);
    const pauses = [...pauseOf.values()];
    if (one.verdict === 'fail' && !stillBroken) return allOpen(one, inDoubt(Math.max(...pauses)));
    if (pauses.every((pause) => pause === 0)) return one;
    return judged(
      one,
      one.obligations.map((obligation) => {
        const pause = pauseOf.get(obligation) ?? 0;
        return pause === 0 ? obligation : open(obligation, inDoubt(pause));
      }),
    );
  });
  const expected = result.expected.map((one): ExpectedOfCase => (doubt.during(asObligation(one)) === 0 ? one : { ...one, outcome: 'open' }));
  return decided(result, results, expected);
}

const modelWords: Readonly<Record<Verdict, string>> = {
  pass: 'passes',
  fail: 'fails',
  inconclusive: 'leaves it open',
  none: 'is never asked for it',
  error: 'ends in an error',
};

function pauseWords(pause: number): string {
  return `the bench or its controller was out of step by up to ${timeWords(Number(pause.toPrecision(3)))} of the loop's time`;
}

/** What a case expected, once it was met, was met with the rest of its time to spare. */
function asObligation(one: ExpectedOfCase): Obligation {
  const left = one.until - one.at;
  return one.outcome === 'met' ? { ...one, margin: { value: left, unit: 's', measure: left } } : one;
}

function open(one: Obligation, reason: string): Obligation {
  return one.outcome === 'open' ? one : { ...one, outcome: 'open', reason };
}

function allOpen(one: CriterionResult, reason: string): CriterionResult {
  return judged(
    one,
    one.obligations.map((obligation) => open(obligation, reason)),
  );
}

function judged({ requirement, name }: CriterionResult, obligations: readonly Obligation[]): CriterionResult {
  const judgement: Judgement = judgementOf(obligations);
  return { requirement, name, ...judgement };
}

function decided(result: RunResult, results: readonly CriterionResult[], expected: readonly ExpectedOfCase[]): DecidedRun {
  const undecided =
    results.filter(({ verdict }, index) => verdict !== result.results[index]?.verdict).length +
    expected.filter(({ outcome }, index) => outcome !== result.expected[index]?.outcome).length;
  const found = { ...result, results, expected };
  return { result: { ...found, verdict: verdictOfRun(found) }, undecided };
}
