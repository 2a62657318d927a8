import { brokenIn, type RunResult, standingAttempt } from '@/core/project';
import type { SentTrace } from '@/core/trace';

/** A run that was made on a bench; its trace cannot be made again. */
export interface RanOnBench {
  readonly result: RunResult;
  readonly elapsedMs: number;
  readonly trace: SentTrace;
}

/** What became of a run on a bench. */
export type BenchAttempt =
  | { readonly k: 'ran'; readonly ran: RanOnBench }
  | { readonly k: 'stopped' }
  | { readonly k: 'ended'; readonly why: { readonly sentence: string }; readonly elapsedMs: number };

/** @property died the process of the bench ended by itself, and could not see to a safe state */
export type MadeOnBench = BenchAttempt & { readonly died?: boolean };

/**
 * A run that has missed its time, or left something open for its pauses, is made anew. Where an attempt cannot be finished at all, that is what came of the run; but what an attempt before it has shown
 * to be broken stands.
 * @param most attempts that may be made
 */
export async function timelyRun(attempt: () => Promise<MadeOnBench>, most: number): Promise<MadeOnBench> {
  const results: RunResult[] = [];
  // Traces are large: of attempts that gave way only those are kept that may still stand.
  const broken = new Map<number, RanOnBench>();
  for (;;) {
    const made = await attempt();
    if (made.k === 'ended') {
      const [first] = broken;
      const { k, why, elapsedMs, ...died } = made;
      return first
        ? { k: 'ran', ran: saying(numbered(first[1], first[0] + 1), `a later attempt could not be finished: ${why.sentence}`), ...died }
        : made;
    }
    if (made.k === 'stopped' || !made.ran.result.bench) return made;
    if (brokenIn(made.ran.result).size > 0) broken.set(results.length, made.ran);
    results.push(made.ran.result);
    const standing = standingAttempt(results, most);
    if (standing !== undefined) return { k: 'ran', ran: numbered(broken.get(standing) ?? made.ran, standing + 1) };
  }
}

/** What came of a run, with a sentence more about how it ended. */
export function alsoSaying(made: BenchAttempt, sentence: string): BenchAttempt {
  if (made.k === 'ended') return { ...made, why: { sentence: `${made.why.sentence}; ${sentence}` } };
  return made.k === 'ran' ? { k: 'ran', ran: saying(made.ran, sentence) } : made;
}

/** The first attempt needs no number. */
function numbered(ran: RanOnBench, attempt: number): RanOnBench {
  const { result } = ran;
  return attempt === 1 || !result.bench ? ran : { ...ran, result: { ...result, bench: { ...result.bench, attempt } } };
}

/** Whatever has to be said of how a run ended, or could not be made anew, is an error of it; what it has found stays beside that. */
function saying(ran: RanOnBench, sentence: string): RanOnBench {
  const { result } = ran;
  const error = { at: result.error?.at ?? result.simulatedSeconds, message: result.error ? `${result.error.message}; ${sentence}` : sentence };
  return { ...ran, result: { ...result, verdict: 'error', error } };
}
