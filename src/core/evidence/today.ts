import { nameKey } from '@/core/language';
import type { Experiment } from '@/core/simulate';
import { evidenceFingerprint, resultFingerprint } from './fingerprint';
import type { ChangedSince } from './ledger';
import type { Finding, RequirementResult } from './rollup';

/** A run as it was recorded. */
interface RecordedRun {
  readonly caseName: string;
  readonly stage: string;
  /** Fingerprint of its result; none of a run that never came to one. */
  readonly fingerprint: string | null;
}

/**
 * The project as it is today: what recorded evidence is held against. A verdict counts while two things hold:
 * the run's result is that of today's model and case, and the criterion and the requirement text are those that were judged. Otherwise it is out of date.
 */
export class Today {
  private readonly cases: ReadonlySet<string>;
  private readonly results = new Map<string, string>();
  private readonly sentences: ReadonlyMap<string, string>;
  private readonly texts: ReadonlyMap<string, string>;

  constructor(
    cases: readonly string[],
    /** What would be run of a case at a stage; nothing where it cannot be run there. */
    private readonly experimentOf: (caseKey: string, stage: string) => Experiment | undefined,
    criteria: readonly { readonly requirement: string; readonly name: string; readonly sentence: string }[],
    requirements: readonly { readonly requirement: string; readonly text: string }[],
  ) {
    this.cases = new Set(cases.map(nameKey));
    this.sentences = new Map(criteria.map(({ requirement, name, sentence }) => [JSON.stringify([requirement, name]), sentence]));
    this.texts = new Map(requirements.map(({ requirement, text }) => [requirement, text]));
  }

  hasCase(name: string): boolean {
    return this.cases.has(nameKey(name));
  }

  /** The run's result is what today's model and case would give. */
  fits({ caseName, stage, fingerprint }: RecordedRun): boolean {
    return fingerprint !== null && fingerprint === this.result(nameKey(caseName), stage);
  }

  /** Worked out where it is asked for: it goes through the whole plan. */
  private result(caseKey: string, stage: string): string | undefined {
    const key = `${stage} ${caseKey}`;
    const known = this.results.get(key);
    if (known !== undefined) return known;
    const experiment = this.experimentOf(caseKey, stage);
    if (!experiment) return undefined;
    const found = resultFingerprint(experiment);
    this.results.set(key, found);
    return found;
  }

  /** Fingerprint of the evidence that a result is for a criterion as it now stands. */
  evidence(result: string, requirement: string, criterion: string): string {
    return evidenceFingerprint(result, this.sentences.get(JSON.stringify([requirement, criterion])) ?? '', this.texts.get(requirement) ?? '');
  }

  /** Whether a verdict that was recorded with a fingerprint of its evidence still counts. */
  counts(run: RecordedRun, { requirement, criterion }: Pick<Finding, 'requirement' | 'criterion'>, recorded: string): boolean {
    return this.fits(run) && this.evidence(run.fingerprint ?? '', requirement, criterion) === recorded;
  }
}

/** A requirement that lacks evidence only because its runs are out of date says so. @param before what these runs had shown */
export function withOutOfDate(now: RequirementResult, before: RequirementResult): RequirementResult {
  const aged = now.state === 'lacks evidence' && now.reason === 'not run' && before.criteria.some((criterion) => criterion.verdict !== 'none');
  return aged ? { ...now, reason: 'out of date' } : now;
}

/** What changed since the runs in which a requirement was triggered. @param changes for each run, by its number */
export function changedSinceRuns(requirement: string, old: readonly Finding[], changes: ReadonlyMap<number, ChangedSince>): ChangedSince {
  const runs = new Set(old.filter((finding) => finding.requirement === requirement && finding.verdict !== 'none').map((finding) => finding.run));
  const all = [...runs].flatMap((run) => changes.get(run) ?? []);
  return {
    documents: [...new Set(all.flatMap((one) => one.documents))].sort(),
    reading: all.some((one) => one.reading),
    product: all.some((one) => one.product),
  };
}

/** What made one run out of date. @param changed documents it rests on that have changed. Where the result still fits, it is the criterion or the requirement text. */
export function causeOfAge(fits: boolean, changed: readonly string[]): ChangedSince {
  return { documents: fits ? [] : changed, reading: fits, product: !fits && changed.length === 0 };
}
