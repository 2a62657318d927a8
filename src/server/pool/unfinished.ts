import { resultFingerprint } from '@/core/evidence';
import { type RunOrder, type RunResult, stageOf } from '@/core/project';
import { timeWords } from '@/core/wording';
import { log } from '@/server/log';
import { isOutOfMemory } from '@/server/threads';

/** A run that did not end by itself, recorded as an error, so that the campaign goes on. */
export function unfinished(order: RunOrder, problem: unknown): RunResult {
  const { experiment, limitSeconds } = order;
  log.error({ case: experiment.case, problem: isSentence(problem) ? problem.sentence : String(problem) }, 'a run did not end by itself');
  return {
    case: experiment.case,
    stage: stageOf(order),
    seed: experiment.seed,
    verdict: 'error',
    fingerprint: resultFingerprint(experiment),
    traceHash: '',
    simulatedSeconds: 0,
    error: { at: 0, message: reasonOf(problem, limitSeconds) },
    expected: [],
    implausible: [],
    clipped: [],
    results: [],
  };
}

function reasonOf(problem: unknown, limitSeconds: number): string {
  if (problem === 'too long') return `the run took longer than ${timeWords(limitSeconds)} and was ended; time_limit in the case allows more`;
  if (isSentence(problem)) return problem.sentence;
  if (isOutOfMemory(problem)) return 'the run needed more memory than there is: record less often, or stop earlier';
  return 'the thread of the run ended unexpectedly';
}

function isSentence(problem: unknown): problem is { readonly sentence: string } {
  return typeof problem === 'object' && problem !== null && 'sentence' in problem;
}
