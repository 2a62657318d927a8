import { availableParallelism } from 'node:os';
import path from 'node:path';
import type Piscina from 'piscina';
import type { BenchOrder, CodeOrder, RunOrder } from '@/core/project';
import { BenchQueue } from '@/server/bench';
import { CodePool } from '@/server/code';
import { distFolder, openThreads } from '@/server/threads';
import { alikeFrom, batchOf } from './batch';
import type { Batch, Ran } from './types';
import { unfinished } from './unfinished';

/** Threads that are there from the start and stay: one that is new takes a second to load and to get fast, which is longer than a run. */
const mostKept = 4;

/** Memory of a thread beside its traces, whose size the core bounds (MB). */
const mostHeapMb = 2048;

/** How often it is looked whether a run has begun, and how long it has taken (ms). */
const lookEveryMs = 100;

/** So long may the runs take that go to a thread together (ms): long beside what it costs to send them, short for one who waits. */
const batchMs = 1000;

/** What became of some runs in a thread. */
type Attempt =
  | { readonly k: 'ran'; readonly ran: readonly Ran[] }
  | { readonly k: 'stopped' }
  | { readonly k: 'ended'; readonly why: unknown; readonly elapsedMs: number };

/** Runs over all cores. A thread is reused for many. A run that does not end by itself is an error with its reason, and costs no other run. */
export class RunPool {
  private readonly threads: Piscina<Batch, Ran[]>;
  /** Once there is code to run. */
  private code: CodePool | undefined;
  /** Once there is a bench to run on. */
  private benches: BenchQueue | undefined;

  constructor(readonly jobs: number = availableParallelism()) {
    this.threads = openThreads({
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
    const attempt = isBench(order)
      ? await this.onBench(order, stopped)
      : isCode(order) || order.units
        ? await this.onCode(order, stopped)
        : await this.attempt([order], stopped);
    switch (attempt.k) {
      case 'ran':
        return attempt.ran[0];
      case 'stopped':
        return undefined;
      case 'ended':
        return { result: unfinished(order, attempt.why), elapsedMs: attempt.elapsedMs };
    }
  }

  /**
   * Makes many runs, those of one plan some at a time in one thread.
   * @param tell is given each as it is done, with its index; the order in which they are done is left to chance
   * @param isOver nothing further is begun once it says so
   */
  async runAll(orders: readonly RunOrder[], tell: (index: number, ran: Ran) => void, isOver = (): boolean => false): Promise<void> {
    let next = 0;
    let runMs = batchMs;
    const work = async (): Promise<void> => {
      while (next < orders.length && !isOver()) {
        const from = next;
        const some = alikeFrom(orders, from, Math.max(1, Math.floor(batchMs / runMs)));
        next += some.length;
        const ran = (await this.together(some)) ?? [];
        runMs = Math.max(0.1, ran.reduce((sum, one) => sum + one.elapsedMs, 0) / some.length);
        for (const [index, one] of ran.entries()) tell(from + index, one);
      }
    };
    await Promise.all(Array.from({ length: this.jobs }, work));
  }

  /**
   * Makes some runs one after the other in one thread, as far as they are of one plan.
   * @param stopped ends them; then nothing comes of any
   */
  async runInTurn(orders: readonly RunOrder[], stopped: AbortSignal): Promise<readonly Ran[] | undefined> {
    const all: Ran[] = [];
    while (all.length < orders.length) {
      const ran = await this.together(alikeFrom(orders, all.length, orders.length), stopped);
      if (!ran) return undefined;
      all.push(...ran);
    }
    return all;
  }

  private async onCode(order: RunOrder, stopped?: AbortSignal): Promise<Attempt> {
    this.code ??= new CodePool(path.join(distFolder(), 'code-runner.mjs'), this.jobs);
    const attempt = await this.code.run(order, stopped);
    return attempt.k === 'ran' ? { k: 'ran', ran: [attempt.ran] } : attempt;
  }

  private async onBench(order: BenchOrder, stopped?: AbortSignal): Promise<Attempt> {
    this.benches ??= new BenchQueue();
    const attempt = await this.benches.run(order, stopped);
    return attempt.k === 'ran' ? { k: 'ran', ran: [attempt.ran] } : attempt;
  }

  /** Where one of several does not end, each is made by itself, so that it alone is an error. */
  private async together(orders: readonly RunOrder[], stopped?: AbortSignal): Promise<readonly Ran[] | undefined> {
    const attempt =
      orders.length > 1 && !orders.some((order) => isCode(order) || order.units || isBench(order)) ? await this.attempt(orders, stopped) : undefined;
    if (attempt?.k === 'ran') return attempt.ran;
    const all: Ran[] = [];
    for (const order of orders) {
      const ran = stopped ? await this.run(order, stopped) : await this.run(order);
      if (!ran) return undefined;
      all.push(ran);
    }
    return all;
  }

  private async attempt(orders: readonly RunOrder[], stopped?: AbortSignal): Promise<Attempt> {
    const [first] = orders;
    if (!first) return { k: 'ran', ran: [] };
    const ending = new AbortController();
    const stop = (): void => ending.abort('stopped');
    stopped?.addEventListener('abort', stop);
    const begun = new Int32Array(new SharedArrayBuffer(4));
    let [at, since] = [0, Number.NaN];
    const looking = setInterval(() => {
      const now = Atomics.load(begun, 0);
      if (now !== at) [at, since] = [now, performance.now()];
      if (performance.now() - since > first.limitSeconds * 1000) ending.abort('too long');
    }, lookEveryMs);
    try {
      if (stopped?.aborted) return { k: 'stopped' };
      return { k: 'ran', ran: await this.threads.run(batchOf(first, orders, begun), { signal: ending.signal }) };
    } catch (problem) {
      if (stopped?.aborted) return { k: 'stopped' };
      return { k: 'ended', why: ending.signal.aborted ? 'too long' : problem, elapsedMs: Number.isNaN(since) ? 0 : performance.now() - since };
    } finally {
      clearInterval(looking);
      stopped?.removeEventListener('abort', stop);
    }
  }

  async close(): Promise<void> {
    await this.threads.destroy();
    await this.code?.close();
    this.benches?.close();
  }
}

function isBench(order: RunOrder): order is BenchOrder {
  return 'bench' in order;
}

function isCode(order: RunOrder): order is CodeOrder {
  return 'libraries' in order;
}
