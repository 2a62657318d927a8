import { type CodeOrder, performCodeRun } from '@/core/project';
import { recycleTrace } from '@/core/simulate';
import { sentTrace } from '@/core/trace';
import { nodeDigest } from '@/server/threads';
import { LibraryHost } from './libraryHost';
import type { CodeAnswer } from './types';

/**
 * A process of its own for runs of compiled code: what the code does wrong ends this process and nothing else.
 * It is told one run at a time; the answers are those of `CodeAnswer`.
 */
function answer(what: CodeAnswer): void {
  // Who asked may be gone by now.
  process.send?.(what, (problem: Error | null) => problem && process.exit(0));
}

function perform(order: CodeOrder): CodeAnswer {
  const hosts = order.libraries.map((file) => new LibraryHost(file));
  const started = performance.now();
  const { result, trace, againstModel } = performCodeRun(order, hosts, nodeDigest());
  const elapsedMs = performance.now() - started;
  const keptToItself = hosts.every((host) => host.keptToItself);
  for (const host of hosts) host.close();
  if (!keptToItself) return { k: 'ended', why: 'the code wrote outside its memory' };
  answer({ k: 'run over' });
  const compared = order.againstModel ? { backToBack: againstModel() } : {};
  const sent = order.wantsTrace ? { trace: sentTrace(trace) } : {};
  recycleTrace(trace);
  return { k: 'ran', ran: { result: { ...result, ...compared }, elapsedMs, ...sent } };
}

process.on('message', (order: CodeOrder) => {
  answer({ k: 'begun' });
  try {
    answer(perform(order));
  } catch (problem) {
    answer({ k: 'ended', why: problem instanceof Error ? problem.message : String(problem) });
  }
});
// Without the one who asks there is nothing to do.
process.on('disconnect', () => process.exit(0));
