import { createHash } from 'node:crypto';
import { type Digest, performRun, type RunOrder, type RunResult } from '@/core';

/** One run in a worker thread: only the result comes back, the trace stays behind. */
export default function run(order: RunOrder): RunResult {
  return performRun(order, nodeDigest()).result;
}

function nodeDigest(): Digest {
  const hash = createHash('sha256');
  return { update: (bytes) => hash.update(bytes), hex: () => hash.digest('hex') };
}
