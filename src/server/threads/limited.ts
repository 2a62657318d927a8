import path from 'node:path';
import type Piscina from 'piscina';
import { distFolder } from './distFolder';
import { isOutOfMemory, openThreads } from './open';

/** Why a thread did not come to an answer. */
export type Ended = 'too long' | 'too much memory';

export interface Limits {
  readonly seconds: number;
  readonly heapMb: number;
}

/** Work that a stranger's document may make endless, in threads of its own with limits of time and memory: whatever comes, the server goes on answering. */
export class LimitedThreads<Question, Answer> {
  private threads: Piscina<Question, Answer> | undefined;

  /** @param bundle name of the bundle whose default export does the work */
  constructor(
    private readonly bundle: string,
    private readonly limits: Limits,
  ) {}

  /** @throws what the work throws */
  async ask(question: Question): Promise<{ readonly answer: Answer } | { readonly ended: Ended }> {
    this.threads ??= openThreads({
      filename: path.join(distFolder(), `${this.bundle}.mjs`),
      minThreads: 0,
      maxThreads: 2,
      idleTimeout: 60_000,
      resourceLimits: { maxOldGenerationSizeMb: this.limits.heapMb },
    });
    const signal = AbortSignal.timeout(this.limits.seconds * 1000);
    try {
      return { answer: await this.threads.run(question, { signal }) };
    } catch (problem) {
      if (signal.aborted) return { ended: 'too long' };
      if (isOutOfMemory(problem)) return { ended: 'too much memory' };
      throw problem;
    }
  }
}
