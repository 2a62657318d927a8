import type { Touched } from '@/core/coverage';
import { touchedIn } from '@/core/coverage';
import { type Criterion, type Judgement, judge, type Obligation, signalsOf, type Verdict } from '@/core/criteria';
import { type BackToBack, type BenchRecord, resultFingerprint } from '@/core/evidence';
import type { Stage } from '@/core/shapes';
import { type Clipped, type Effort, type Experiment, type Host, type Implausible, type RunError, type RunOutcome, simulate } from '@/core/simulate';
import { type Digest, hashTrace, type Trace } from '@/core/trace';
import type { CheckedProject } from './check';
import type { CheckedCase } from './checkedCase';
import { figuresOf, type MeasuredFigure, type WantedFigure } from './figures';
import { criterionInCase } from './received';

/** A co-simulation unit that is unpacked and can be loaded. */
export interface UnitToRun {
  readonly name: string;
  /** Version of the Functional Mock-up Interface. */
  readonly version: 2 | 3;
  readonly identifier: string;
  readonly token: string;
  /** Only one of it may be there in a process. */
  readonly isAlone: boolean;
  readonly folder: string;
  readonly library: string;
}

/** One run to be made, as plain data for a worker: what to simulate and what to watch. */
export interface RunOrder {
  readonly experiment: Experiment;
  readonly watched: readonly { readonly requirement: string; readonly name: string; readonly criterion: Criterion }[];
  /** Figures that are taken besides. */
  readonly measured?: readonly WantedFigure[];
  /** How long it may take, by the clock on the wall, from its start (s). */
  readonly limitSeconds: number;
  /** The units of the plan, once they can be loaded: such a run needs a process of its own. */
  readonly units?: readonly UnitToRun[];
  /** Of a run in a process of its own: the trace is wanted as well, not only what was found in it. */
  readonly wantsTrace?: boolean;
}

/** What one criterion found in one run. */
export interface CriterionResult extends Judgement {
  readonly requirement: string;
  readonly name: string;
}

/** In place of a requirement, where what was owed is an expectation of the case itself. */
export const ofCase = 'the case';

/** Something the script of a case expected, as an obligation (s). */
export interface ExpectedOfCase extends Pick<Obligation, 'from' | 'until' | 'at' | 'outcome'> {
  readonly text: string;
}

/** What one run found; small enough to keep for every run. The trace is recomputed on demand. */
export interface RunResult {
  readonly case: string;
  readonly stage: Stage;
  readonly seed: number;
  readonly verdict: Verdict;
  readonly fingerprint: string;
  /** SHA-256 of the trace. */
  readonly traceHash: string;
  readonly simulatedSeconds: number;
  readonly error?: RunError;
  readonly implausible: readonly Implausible[];
  /** Outputs of the plant that only a limiter kept believable. */
  readonly clipped: readonly Clipped[];
  readonly gaveUp?: { readonly at: number; readonly text: string };
  /** What the script of the case expected: obligations of the case itself, counted apart from those of requirements. */
  readonly expected: readonly ExpectedOfCase[];
  readonly results: readonly CriterionResult[];
  /** Of a run on a bench: how it kept its time. */
  readonly bench?: BenchRecord;
  /** Of a run of code: how it compares with the same run of the model; of one on a bench, with the model at the same inputs. */
  readonly backToBack?: BackToBack;
  /** Figures that were asked for, the greatest of each; those that the run has not are left out. */
  readonly measured?: readonly MeasuredFigure[];
}

/** Every accepted criterion is watched in every run of a loop that has its names. */
export function orderRun(project: CheckedProject, test: CheckedCase, seed?: number): RunOrder {
  const watched = project.criteria.flatMap(({ requirement, name, sentence, acceptedBy, inLoop }) => {
    const criterion = acceptedBy === undefined ? undefined : inLoop.get(test.loop);
    return criterion ? [{ requirement, name, criterion: criterionInCase(project, test, sentence, criterion) }] : [];
  });
  return { experiment: seed === undefined ? test.experiment : { ...test.experiment, seed }, watched, limitSeconds: test.limitSeconds };
}

/**
 * Simulates, watches ranges, judges every criterion. Pure: the same order gives the same result everywhere, whatever digest is lent.
 * @param counting counts what the run touches of the logic, which changes nothing else of it; not in a run of code
 * @param hosts do the tasks that the plan leaves to them
 */
export function performRun(
  order: RunOrder,
  digest?: Digest,
  counting = false,
  hosts: readonly Host[] = [],
): { result: RunResult; trace: Trace; effort: Effort; touched?: Touched } {
  const { experiment } = order;
  const outcome = simulate(counting ? { ...experiment, coverage: true } : experiment, hosts);
  const { trace, effort } = outcome;
  return { result: resultOf(order, outcome, digest), trace, effort, ...(counting ? { touched: touchedIn(experiment.plan, outcome) } : {}) };
}

/** What a run that was made has found. @param digest lent for the hash of its trace */
export function resultOf(order: RunOrder, outcome: RunOutcome, digest?: Digest): RunResult {
  const { experiment, watched } = order;
  const { trace, error, implausible, clipped, gaveUp } = outcome;
  const results = judgeOutcome(watched, outcome);
  const expected = outcome.expected.map(({ step, text, fromNs, atNs, outcome: became }): ExpectedOfCase => {
    return { text, from: fromNs / 1e9, until: (fromNs + step.withinNs) / 1e9, at: atNs / 1e9, outcome: became };
  });
  return {
    case: experiment.case,
    stage: stageOf(order),
    seed: experiment.seed,
    verdict: verdictOfRun({ results, expected, ...(error ? { error } : {}), ...(gaveUp ? { gaveUp } : {}) }),
    fingerprint: resultFingerprint(experiment),
    traceHash: hashTrace(trace, digest),
    simulatedSeconds: trace.until - trace.from,
    ...(error ? { error } : {}),
    ...(gaveUp ? { gaveUp } : {}),
    expected,
    implausible,
    clipped,
    results,
    ...(order.measured ? { measured: figuresOf(order.measured, experiment, outcome, (wanted) => judgeOutcome(wanted, outcome)) } : {}),
  };
}

/** Where a run is made. */
export function stageOf({ experiment }: Pick<RunOrder, 'experiment'>): Stage {
  const [host] = experiment.hosts ?? [];
  return host?.bench ? 'bench' : host ? 'code' : 'model';
}

/** What the criteria find in a run that was made. */
export function judgeOutcome(watched: RunOrder['watched'], { trace, slots }: Pick<RunOutcome, 'trace' | 'slots'>): CriterionResult[] {
  const signals = signalsOf(trace, (slot) => slots[slot] ?? Number.NaN);
  return watched.map(({ requirement, name, criterion }) => ({ requirement, name, ...judge(criterion, signals) }));
}

const verdictOf = { met: 'pass', broken: 'fail', open: 'inconclusive' } as const;

/** A run: error > fail > inconclusive > pass > none. */
export function verdictOfRun({ results, expected, error, gaveUp }: Pick<RunResult, 'results' | 'expected' | 'error' | 'gaveUp'>): Verdict {
  if (error) return 'error';
  const verdicts = [...results.map((one) => one.verdict), ...expected.map((one) => verdictOf[one.outcome])];
  const order: readonly Verdict[] = ['fail', 'inconclusive', 'pass'];
  const worst = order.find((verdict) => verdicts.includes(verdict)) ?? 'none';
  return gaveUp && worst !== 'fail' ? 'inconclusive' : worst;
}
