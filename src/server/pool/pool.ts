import { availableParallelism } from 'node:os';
import path from 'node:path';
import Piscina from 'piscina';
import type { RunOrder, RunResult } from '@/core';

/** A run that takes longer than this is ended with its worker: emitted code is bounded, but a long trace may still be a mistake. */
const longestRunMs = 10 * 60_000;

/** Threads that are there from the start and stay: one that is new takes a second to load and to get fast, which is longer than a run. */
const mostKept = 4;

/** Runs over all cores. Plans stay compiled only within a run; a thread is reused for many. */
export class RunPool {
  private readonly threads: Piscina;

  constructor(jobs: number = availableParallelism()) {
    this.threads = new Piscina({
      filename: path.join(distFolder(), 'run-worker.mjs'),
      maxThreads: jobs,
      minThreads: Math.min(jobs, mostKept),
      idleTimeout: 10 * 60_000,
    });
  }

  /** The result, and the time it took in its thread. */
  async run(order: RunOrder): Promise<{ result: RunResult; elapsedMs: number }> {
    return this.threads.run(order, { signal: AbortSignal.timeout(longestRunMs) });
  }

  async close(): Promise<void> {
    await this.threads.destroy();
  }
}

/** Bundles of workers lie beside each other; a bundle knows its own folder, the web server is told by the variable. */
function distFolder(): string {
  return process.env.OVRAND_DIST ?? path.join(/* turbopackIgnore: true */ process.cwd(), 'dist');
}
