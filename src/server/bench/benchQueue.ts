import type { ChildProcess } from 'node:child_process';
import type { BenchOrder } from '@/core/project';
import { endBench, makeSafe, startBench } from './process';
import { reserve } from './reservation';
import { alsoSaying, type BenchAttempt, type MadeOnBench, type RanOnBench, timelyRun } from './timelyRun';

type Answer =
  | { readonly k: 'begun' }
  | { readonly k: 'moment' }
  | { readonly k: 'ran'; readonly ran: RanOnBench }
  | { readonly k: 'ended'; readonly why: string };

/** The key by which the bench of an order is reserved: its controller, or the stand-in of that name. */
export function benchKey({ bench }: Pick<BenchOrder, 'bench'>): string {
  return bench.address ? `${bench.address.host}:${bench.address.port}` : `stand-in ${bench.bench}`;
}

/** Runs on benches: one at a time on each, in a process of its own. */
export class BenchQueue {
  private readonly running = new Set<ChildProcess>();

  /** @param stopped ends the waiting and the run; then nothing comes of it */
  async run(order: BenchOrder, stopped?: AbortSignal): Promise<BenchAttempt> {
    const release = await reserve(benchKey(order), `a run of ${order.experiment.case}`, stopped);
    if (!release) return { k: 'stopped' };
    try {
      const made = await timelyRun(() => this.attempt(order, stopped), order.bench.attempts);
      const unsafe = made.died ? await makeSafe(order) : undefined;
      return unsafe === undefined ? made : alsoSaying(made, unsafe);
    } finally {
      release();
    }
  }

  private attempt(order: BenchOrder, stopped: AbortSignal | undefined): Promise<MadeOnBench> {
    let why: string | undefined;
    const child = startBench({ order, mode: 'run' }, (because) => {
      why ??= because;
    });
    this.running.add(child);
    const began = performance.now();
    return new Promise((resolve) => {
      let limit: NodeJS.Timeout | undefined;
      let ran: RanOnBench | undefined;
      const end = (because: string): void => {
        why ??= because;
        endBench(child);
      };
      const stop = (): void => end('stopped');
      stopped?.addEventListener('abort', stop);
      child.on('message', (answer: Answer) => {
        if (answer.k === 'begun') limit = setTimeout(() => end('the run took longer than its case allows and was ended'), order.limitSeconds * 1000);
        else if (answer.k === 'ran') ran = answer.ran;
        else if (answer.k === 'ended') why ??= answer.why;
      });
      child.on('close', (_code, signal) => {
        clearTimeout(limit);
        stopped?.removeEventListener('abort', stop);
        this.running.delete(child);
        if (stopped?.aborted) resolve({ k: 'stopped' });
        else if (ran) resolve({ k: 'ran', ran });
        else {
          const died = why === undefined;
          const sentence = why ?? `the process of the bench ended unexpectedly${signal ? ` (${signal})` : ''}`;
          resolve({ k: 'ended', why: { sentence }, elapsedMs: performance.now() - began, died });
        }
      });
    });
  }

  /** Ends what runs, each in its safe state. */
  close(): void {
    for (const child of this.running) child.kill('SIGTERM');
  }
}
