import { type ChildProcess, fork } from 'node:child_process';
import type { BenchOrder, RunResult } from '@/core/project';
import type { SentTrace } from '@/core/trace';
import { reserve } from './reservation';

/** A run that was made on a bench; its trace cannot be made again. */
export interface RanOnBench {
  readonly result: RunResult;
  readonly elapsedMs: number;
  readonly trace: SentTrace;
}

/** What became of a run on a bench. */
export type BenchAttempt =
  | { readonly k: 'ran'; readonly ran: RanOnBench }
  | { readonly k: 'stopped' }
  | { readonly k: 'ended'; readonly why: { readonly sentence: string }; readonly elapsedMs: number };

type Answer =
  | { readonly k: 'begun' }
  | { readonly k: 'moment' }
  | { readonly k: 'ran'; readonly ran: RanOnBench }
  | { readonly k: 'ended'; readonly why: string };

/** What the process of a bench is told. */
export interface BenchTask {
  readonly order: BenchOrder;
  /** No run: the controller is brought to its safe state, and that is all. */
  readonly onlySafe: boolean;
}

/** How long a bench may take to bring its controller to the safe state once it is told to stop (ms). */
const safeMs = 10_000;

/** The key by which the bench of an order is reserved: its controller, or the stand-in of that name. */
export function benchKey({ bench }: Pick<BenchOrder, 'bench'>): string {
  return bench.address ? `${bench.address.host}:${bench.address.port}` : `stand-in ${bench.bench}`;
}

/** Runs on benches: one at a time on each, in a process of its own. */
export class BenchQueue {
  private readonly running = new Set<ChildProcess>();

  /** @param file bundle of the process */
  constructor(private readonly file: string) {}

  /** @param stopped ends the waiting and the run; then nothing comes of it */
  async run(order: BenchOrder, stopped?: AbortSignal): Promise<BenchAttempt> {
    const release = await reserve(benchKey(order), `a run of ${order.experiment.case}`, stopped);
    if (!release) return { k: 'stopped' };
    try {
      const attempt = await this.attempt(order, stopped);
      // Nobody has brought the controller to its safe state.
      if (attempt.k === 'ended' && attempt.died) await this.attempt(order, undefined, true);
      return attempt;
    } finally {
      release();
    }
  }

  private attempt(order: BenchOrder, stopped: AbortSignal | undefined, onlySafe = false): Promise<BenchAttempt & { readonly died?: boolean }> {
    const child = fork(this.file, { serialization: 'advanced', execArgv: ['--single-threaded-gc'] });
    this.running.add(child);
    const began = performance.now();
    return new Promise((resolve) => {
      let limit: NodeJS.Timeout | undefined;
      let why: string | undefined;
      let ran: RanOnBench | undefined;
      const end = (because: string): void => {
        why ??= because;
        child.kill('SIGTERM');
        setTimeout(() => child.kill('SIGKILL'), safeMs).unref();
      };
      const stop = (): void => end('stopped');
      stopped?.addEventListener('abort', stop);
      child.on('message', (answer: Answer) => {
        if (answer.k === 'begun') limit = setTimeout(() => end('the run took longer than its case allows and was ended'), order.limitSeconds * 1000);
        else if (answer.k === 'ran') ran = answer.ran;
        else if (answer.k === 'ended') why ??= answer.why;
      });
      child.on('error', (problem) => {
        why ??= `the process of the bench could not be started: ${problem.message}`;
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
      child.send({ order, onlySafe } satisfies BenchTask, (problem) => {
        if (problem) why ??= `the process of the bench could not be told its run: ${problem.message}`;
      });
    });
  }

  /** Ends what runs, each in its safe state. */
  close(): void {
    for (const child of this.running) child.kill('SIGTERM');
  }
}
