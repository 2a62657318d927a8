import { createHash } from 'node:crypto';
import { performRun } from '@/core/project';
import { recycleTrace } from '@/core/simulate';
import type { Digest } from '@/core/trace';
import type { OrderWithStart, Ran } from './types';

/** One run in a worker thread: only the result comes back, the trace stays behind. */
export default function run({ order, begun }: OrderWithStart): Ran {
  Atomics.store(begun, 0, 1);
  const started = performance.now();
  const { result, trace } = performRun(order, nodeDigest());
  recycleTrace(trace);
  return { result, elapsedMs: performance.now() - started };
}

function nodeDigest(): Digest {
  const hash = createHash('sha256');
  return { update: (bytes) => hash.update(bytes), hex: () => hash.digest('hex') };
}
