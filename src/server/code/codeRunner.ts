import { createHash } from 'node:crypto';
import { performRun, type RunOrder } from '@/core/project';
import { recycleTrace } from '@/core/simulate';
import type { Digest } from '@/core/trace';
import { LibraryHost } from './libraryHost';
import type { CodeAnswer, CodeOrder } from './types';

/**
 * A process of its own for runs of compiled code: what the code does wrong ends this process and nothing else.
 * It is told one run at a time; the answers are those of `CodeAnswer`.
 */
function answer(what: CodeAnswer): void {
  process.send?.(what);
}

function perform(order: RunOrder): CodeAnswer {
  const hosts = (order.libraries ?? []).map((file) => new LibraryHost(file));
  const started = performance.now();
  const { result, trace } = performRun(order, nodeDigest(), false, hosts);
  recycleTrace(trace);
  const elapsedMs = performance.now() - started;
  const keptToItself = hosts.every((host) => host.keptToItself);
  for (const host of hosts) host.close();
  return keptToItself ? { k: 'ran', ran: { result, elapsedMs } } : { k: 'ended', why: 'the code wrote outside its memory' };
}

function nodeDigest(): Digest {
  const hash = createHash('sha256');
  return { update: (bytes) => hash.update(bytes), hex: () => hash.digest('hex') };
}

process.on('message', ({ order }: CodeOrder) => {
  answer({ k: 'begun' });
  try {
    answer(perform(order));
  } catch (problem) {
    answer({ k: 'ended', why: problem instanceof Error ? problem.message : String(problem) });
  }
});
// Without the one who asks there is nothing to do.
process.on('disconnect', () => process.exit(0));
