import type { ChildProcess } from 'node:child_process';
import { type BenchOrder, brokenIn, type RunResult, standingAttempt } from '@/core/project';
import type { SentTrace } from '@/core/trace';
import { endBench, makeSafe, startBench } from './process';
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

/** The key by which the bench of an order is reserved: its controller, or the stand-in of that name. */
export function benchKey({ bench }: Pick<BenchOrder, 'bench'>): string {
  return bench.address ? `${bench.address.host}:${bench.address.port}` : `stand-in ${bench.bench}`;
}

/** The first attempt needs no number. */
function ofAttempt(ran: RanOnBench, attempt: number): RanOnBench {
  const { result } = ran;
  return attempt === 1 || !result.bench ? ran : { ...ran, result: { ...result, bench: { ...result.bench, attempt } } };
}

/** Runs on benches: one at a time on each, in a process of its own. */
export class BenchQueue {
  private readonly running = new Set<ChildProcess>();

  /** @param stopped ends the waiting and the run; then nothing comes of it */
  async run(order: BenchOrder, stopped?: AbortSignal): Promise<BenchAttempt> {
    const release = await reserve(benchKey(order), `a run of ${order.experiment.case}`, stopped);
    if (!release) return { k: 'stopped' };
    try {
      const attempt = await this.timely(order, stopped);
      if (attempt.k !== 'ended' || !attempt.died) return attempt;
      const unsafe = await makeSafe(order);
      return unsafe === undefined ? attempt : { ...attempt, why: { sentence: `${attempt.why.sentence}; ${unsafe}` } };
    } finally {
      release();
    }
  }

  /** A run that has missed its time is made anew, as often as the sheet allows. */
  private async timely(order: BenchOrder, stopped: AbortSignal | undefined): Promise<BenchAttempt & { readonly died?: boolean }> {
    const results: RunResult[] = [];
    // Traces are large: of attempts that gave way only those are kept that may still stand.
    const broken = new Map<number, RanOnBench>();
    for (;;) {
      const made = await this.attempt(order, stopped);
      if (made.k !== 'ran' || !made.ran.result.bench) return made;
      if (brokenIn(made.ran.result).size > 0) broken.set(results.length, made.ran);
      results.push(made.ran.result);
      const standing = standingAttempt(results, order.bench.attempts);
      if (standing !== undefined) return { k: 'ran', ran: ofAttempt(broken.get(standing) ?? made.ran, standing + 1) };
    }
  }

  private attempt(order: BenchOrder, stopped: AbortSignal | undefined): Promise<BenchAttempt & { readonly died?: boolean }> {
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
