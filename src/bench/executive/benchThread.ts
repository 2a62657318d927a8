import { type MessagePort, parentPort, workerData } from 'node:worker_threads';
import { againstModel, performRun } from '@/core/project';
import { type Host, recycleTrace, simulate } from '@/core/simulate';
import { sentTrace } from '@/core/trace';
import { nodeDigest } from '@/server/threads';
import { BusHost } from './busHost';
import { Line } from './line';
import type { BenchAnswer, BenchWork } from './messages';

/** How long an answer of the controller may take before the connection counts as lost (ms). */
const patienceMs = 1000;

/** The executive of a run on a bench, in a thread that stands still until the next cycle is due. */
const { order, line } = workerData as BenchWork & { readonly port: MessagePort };
const { port } = workerData as { readonly port: MessagePort };

function answer(what: BenchAnswer): void {
  parentPort?.postMessage(what);
}

/** The executive goes through the first second with a controller that says nothing, so that it is fast when time counts. */
function warmUp({ experiment }: BenchWork['order']): void {
  let values = new Float64Array();
  const silent: Host = {
    room: (count) => {
      values = new Float64Array(count);
      return values;
    },
    begin: () => undefined,
    hit: () => undefined,
  };
  recycleTrace(simulate({ ...experiment, stopNs: Math.min(experiment.stopNs, 1e9) }, [silent]).trace);
}

const [table] = order.experiment.hosts ?? [];
if (!table?.bench) throw new Error('a run without a bench was given to one');
const host = new BusHost(table, new Line(line, port, patienceMs), { takesBuild: order.bench.program !== undefined, seed: order.experiment.seed });
warmUp(order);
answer({ k: 'begun' });
const started = performance.now();
const { result, trace } = performRun(order, nodeDigest(), false, [host]);
const elapsedMs = performance.now() - started;
const compared = order.bench.program ? againstModel(order, trace) : undefined;
answer({
  k: 'ran',
  ran: {
    result: {
      ...result,
      bench: { bench: order.bench.bench, ...(order.bench.program ? { build: order.build.fingerprint } : {}), timing: host.timing },
      ...(compared ? { backToBack: compared } : {}),
    },
    elapsedMs,
    trace: sentTrace(trace),
  },
});
port.close();
