import { availableParallelism } from 'node:os';
import path from 'node:path';
import Piscina from 'piscina';
import type { RunOrder } from '@/core/project';
import type { OrderWithStart, Ran } from './types';
import { unfinished } from './unfinished';

/** Threads that are there from the start and stay: one that is new takes a second to load and to get fast, which is longer than a run. */
const mostKept = 4;

/** Memory of a thread beside its traces, whose size the core bounds (MB). */
const mostHeapMb = 2048;

/** How often it is looked whether a run has begun, and how long it has taken (ms). */
const lookEveryMs = 100;

/** Runs over all cores. A thread is reused for many. A run that does not end by itself is an error with its reason, and costs no other run. */
export class RunPool {
  private readonly threads: Piscina<OrderWithStart, Ran>;

  constructor(readonly jobs: number = availableParallelism()) {
    this.threads = new Piscina({
      filename: path.join(distFolder(), 'run-worker.mjs'),
      maxThreads: jobs,
      minThreads: Math.min(jobs, mostKept),
      idleTimeout: 10 * 60_000,
      resourceLimits: { maxOldGenerationSizeMb: mostHeapMb },
    });
  }

  /**
   * Makes a run. The time it may take counts from its start, not from when it began to wait for a thread.
   * @param stopped ends it; then nothing comes of it
   */
  async run(order: RunOrder): Promise<Ran>;
  async run(order: RunOrder, stopped: AbortSignal): Promise<Ran | undefined>;
  async run(order: RunOrder, stopped?: AbortSignal): Promise<Ran | undefined> {
    const ending = new AbortController();
    const stop = (): void => ending.abort('stopped');
    stopped?.addEventListener('abort', stop);
    const begun = new Int32Array(new SharedArrayBuffer(4));
    let started: number | undefined;
    const looking = setInterval(() => {
      if (started === undefined && Atomics.load(begun, 0) === 1) started = performance.now();
      if (started !== undefined && performance.now() - started > order.limitSeconds * 1000) ending.abort('too long');
    }, lookEveryMs);
    try {
      if (stopped?.aborted) return undefined;
      return await this.threads.run({ order, begun }, { signal: ending.signal });
    } catch (problem) {
      if (stopped?.aborted) return undefined;
      return {
        result: unfinished(order, ending.signal.aborted ? 'too long' : problem),
        elapsedMs: started === undefined ? 0 : performance.now() - started,
      };
    } finally {
      clearInterval(looking);
      stopped?.removeEventListener('abort', stop);
    }
  }

  async close(): Promise<void> {
    await this.threads.destroy();
  }
}

/** Bundles of workers lie beside each other; a bundle knows its own folder, the web server is told by the variable. */
function distFolder(): string {
  return process.env.OVRAND_DIST ?? path.join(/* turbopackIgnore: true */ process.cwd(), 'dist');
}
