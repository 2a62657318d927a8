import path from 'node:path';
import { type Budget, type Derived, type Lane, type RoundTold, type StrainTask, searchInStrains, strainCount } from '@/core/design';
import { openThreads } from '@/server/threads';
import type { StrainAsk } from './strainThread';

/**
 * Looks for cases over several threads; what is found does not depend on their number.
 * @param jobs how many threads
 * @throws Error in words, where the loop or a quantity that is to vary is not there
 */
export async function deriveInThreads(task: StrainTask, budget: Budget, jobs: number): Promise<Derived> {
  // A pool of one thread each: a strain stays where it is.
  const threads = Array.from({ length: Math.min(jobs, strainCount) }, () => {
    return openThreads<StrainAsk, unknown>({
      filename: path.join(import.meta.dirname, 'strain-thread.mjs'),
      minThreads: 1,
      maxThreads: 1,
    });
  });
  try {
    await Promise.all(threads.map((one) => one.run({ k: 'begin', task })));
    const lanes = threads.map(
      (one): Lane => ({
        round: async (strain, runs, received) => (await one.run({ k: 'round', strain, runs, received })) as RoundTold,
        ending: async (strain) => (await one.run({ k: 'ending', strain })) as Derived,
      }),
    );
    return await searchInStrains(lanes, budget);
  } finally {
    await Promise.all(threads.map((one) => one.destroy()));
  }
}
