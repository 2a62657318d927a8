import { performRun } from '@/core/project';
import { recycleTrace } from '@/core/simulate';
import { nodeDigest } from '@/server/threads';
import type { Batch, Ran } from './types';

/** Some runs of one plan in a worker thread: only the results come back, the traces stay behind. */
export default function run({ plan, watched, measured, limitSeconds, experiments, begun }: Batch): Ran[] {
  return experiments.map((experiment) => {
    Atomics.add(begun, 0, 1);
    const started = performance.now();
    const { result, trace, touched } = performRun(
      { experiment: { ...experiment, plan }, watched, ...(measured ? { measured } : {}), limitSeconds },
      nodeDigest(),
      true,
    );
    recycleTrace(trace);
    return { result, ...(touched ? { touched } : {}), elapsedMs: performance.now() - started };
  });
}
