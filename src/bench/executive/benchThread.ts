import { type MessagePort, parentPort, workerData } from 'node:worker_threads';
import { againstModel, type BenchOrder, leaveOpen, performRun } from '@/core/project';
import { type Host, recycleTrace, simulate } from '@/core/simulate';
import { sentTrace } from '@/core/trace';
import { nodeDigest } from '@/server/threads';
import { unitHosts } from '@/server/units';
import { sayLoaded } from '../nativeThread';
import { readyToGoFirst } from '../priority';
import { BusHost } from './busHost';
import { Line } from './line';
import { LiveBench } from './liveBench';
import type { BenchAnswer, BenchWork } from './messages';

const goFirst = readyToGoFirst();
sayLoaded();

/** How long an answer of the controller may take before the connection counts as lost (ms). */
const patienceMs = 1000;

/** The executive of a bench, in a thread that stands still until the next cycle is due. */
const { order, line, watched, shadow, port, acts } = workerData as BenchWork & { readonly port: MessagePort; readonly acts: MessagePort };

function answer(what: BenchAnswer): void {
  parentPort?.postMessage(what);
}

function silentHost(): Host {
  return { room: (count) => new Float64Array(count), begin: () => undefined, hit: () => undefined };
}

/** The executive goes through the first second with a controller that says nothing, so that it is fast when time counts. */
function warmUp({ experiment }: BenchOrder): void {
  const silent = Array.from({ length: 1 + (experiment.plan.units?.length ?? 0) }, silentHost);
  recycleTrace(simulate({ ...experiment, stopNs: Math.min(experiment.stopNs, 1e9) }, silent).trace);
}

/** A case to its end. */
function performCase(host: BusHost): BenchAnswer {
  const started = performance.now();
  const units = (): Host[] => unitHosts(order.experiment.plan, order.units);
  const { result, trace } = performRun(order, nodeDigest(), false, [...units(), host]);
  const elapsedMs = performance.now() - started;
  const compared = order.bench.program ? againstModel(order, trace) : undefined;
  const { result: decided, undecided } = leaveOpen(order, result, trace, compared?.parted.length === 0, units);
  const bench = {
    bench: order.bench.bench,
    ...(order.bench.program ? { build: order.build.fingerprint } : {}),
    timing: host.timing,
    ...(undecided > 0 ? { undecided } : {}),
  };
  // What is told of the controller rests on runs that were made to their end.
  const told = compared && !result.error ? { backToBack: compared } : {};
  return { k: 'ran', ran: { result: { ...decided, bench, ...told }, elapsedMs, trace: sentTrace(trace) } };
}

const [table] = order.experiment.hosts ?? [];
if (!table?.bench) throw new Error('a run without a bench was given to one');
const host = new BusHost(table, new Line(line, port, patienceMs), {
  takesBuild: order.bench.program !== undefined,
  seed: order.experiment.seed,
  isLive: watched !== undefined,
});
warmUp(order);
// Not before: what works for a second on end before all others is held up by the system, just when time begins to count.
goFirst();
answer({ k: 'begun' });
if (watched) {
  const live = new LiveBench({ order, line, watched, ...(shadow ? { shadow } : {}) }, host, acts, (moment) => answer({ k: 'moment', moment }));
  answer({ k: 'ended', why: live.run() });
} else answer(performCase(host));
port.close();
acts.close();
