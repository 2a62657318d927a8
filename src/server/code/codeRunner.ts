import { type CodeOrder, performCodeRun, performRun, type RunOrder } from '@/core/project';
import { recycleTrace } from '@/core/simulate';
import { sentTrace, type Trace } from '@/core/trace';
import { nodeDigest } from '@/server/threads';
import { unitHosts } from '@/server/units';
import { LibraryHost } from './libraryHost';
import type { CodeAnswer } from './types';

/**
 * A process of its own for runs of compiled code and of co-simulation units: what these do wrong ends this process and nothing else.
 * It is told one run at a time; the answers are those of `CodeAnswer`.
 */
function answer(what: CodeAnswer): void {
  // Who asked may be gone by now.
  process.send?.(what, (problem: Error | null) => problem && process.exit(0));
}

type Ran = (CodeAnswer & { readonly k: 'ran' })['ran'];

/** What came of a run, but for how long it took. */
type Found = Omit<Ran, 'elapsedMs' | 'trace'> & { readonly trace: Trace };

function perform(order: RunOrder | CodeOrder): CodeAnswer {
  const started = performance.now();
  let elapsedMs = 0;
  const isOver = (): void => {
    elapsedMs = performance.now() - started;
    answer({ k: 'run over' });
  };
  const found = 'libraries' in order ? ofCode(order, isOver) : ofUnits(order, isOver);
  if (!found) return { k: 'ended', why: 'the code wrote outside its memory' };
  const { trace, ...ran } = found;
  const sent = order.wantsTrace ? { trace: sentTrace(trace) } : {};
  recycleTrace(trace);
  return { k: 'ran', ran: { ...ran, elapsedMs, ...sent } };
}

/** @returns nothing when the code wrote to what is not its own */
function ofCode(order: CodeOrder, isOver: () => void): Found | undefined {
  const hosts = order.libraries.map((file) => new LibraryHost(file));
  const made: ReturnType<typeof unitHosts>[] = [];
  const units = (): ReturnType<typeof unitHosts> => {
    for (const host of made.pop() ?? []) host.close();
    const fresh = unitHosts(order.model.plan, order.units);
    made.push(fresh);
    return fresh;
  };
  const { result, trace, againstModel } = performCodeRun(order, hosts, nodeDigest(), units);
  const keptToItself = hosts.every((host) => host.keptToItself);
  for (const host of hosts) host.close();
  if (!keptToItself) return undefined;
  isOver();
  const compared = order.againstModel ? { backToBack: againstModel() } : {};
  for (const host of made.pop() ?? []) host.close();
  return { result: { ...result, ...compared }, trace };
}

function ofUnits(order: RunOrder, isOver: () => void): Found {
  const hosts = unitHosts(order.experiment.plan, order.units);
  const { result, trace, touched } = performRun(order, nodeDigest(), true, hosts);
  for (const host of hosts) host.close();
  isOver();
  return { result, trace, ...(touched ? { touched } : {}) };
}

process.on('message', (order: RunOrder | CodeOrder) => {
  answer({ k: 'begun' });
  try {
    answer(perform(order));
  } catch (problem) {
    answer({ k: 'ended', why: problem instanceof Error ? problem.message : String(problem) });
  }
});
// Without the one who asks there is nothing to do.
process.on('disconnect', () => process.exit(0));
