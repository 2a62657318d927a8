import { type ChildProcess, fork } from 'node:child_process';
import type { RunOrder } from '@/core/project';
import type { CodeAnswer } from './types';

/** What became of a run of code. */
export type CodeAttempt =
  | { readonly k: 'ran'; readonly ran: (CodeAnswer & { readonly k: 'ran' })['ran'] }
  | { readonly k: 'stopped' }
  | { readonly k: 'ended'; readonly why: 'too long' | { readonly sentence: string }; readonly elapsedMs: number };

/** Runs with compiled code or co-simulation units, each in a process that lives on for the next one as long as it behaves: a crash, an endless loop or a write outside its memory costs no other run. */
export class CodePool {
  private readonly idle: ChildProcess[] = [];
  private readonly waiting: (() => void)[] = [];
  private busy = 0;
  private isClosed = false;

  /** @param file bundle of the runner */
  constructor(
    private readonly file: string,
    private readonly jobs: number,
  ) {}

  /** @param stopped ends the run; then nothing comes of it */
  async run(order: RunOrder, stopped?: AbortSignal): Promise<CodeAttempt> {
    await this.turn();
    try {
      if (stopped?.aborted || this.isClosed) return { k: 'stopped' };
      return await this.attempt(order, stopped);
    } finally {
      this.busy -= 1;
      this.waiting.shift()?.();
    }
  }

  private async turn(): Promise<void> {
    while (this.busy >= this.jobs) await new Promise<void>((resolve) => this.waiting.push(resolve));
    this.busy += 1;
  }

  private attempt(order: RunOrder, stopped: AbortSignal | undefined): Promise<CodeAttempt> {
    const child = this.idle.pop() ?? fork(this.file, { serialization: 'advanced', execArgv: [] });
    let since = performance.now();
    return new Promise((resolve) => {
      let limit: NodeJS.Timeout | undefined;
      const settle = (attempt: CodeAttempt, goesOn: boolean): void => {
        clearTimeout(limit);
        child.removeAllListeners();
        stopped?.removeEventListener('abort', stop);
        if (goesOn && !this.isClosed) this.idle.push(child);
        else child.kill('SIGKILL');
        resolve(attempt);
      };
      const ended = (why: 'too long' | { readonly sentence: string }): void =>
        settle({ k: 'ended', why, elapsedMs: performance.now() - since }, false);
      const stop = (): void => settle({ k: 'stopped' }, false);
      stopped?.addEventListener('abort', stop);
      child.on('message', (answer: CodeAnswer) => {
        if (answer.k === 'begun') {
          since = performance.now();
          limit = setTimeout(() => ended('too long'), order.limitSeconds * 1000);
        } else if (answer.k === 'run over') clearTimeout(limit);
        else if (answer.k === 'ran') settle(answer, true);
        else ended({ sentence: answer.why });
      });
      child.on('exit', (code, signal) => ended({ sentence: exitWords(code, signal, whoRuns(order)) }));
      child.on('error', (problem) => ended({ sentence: `the process of the run could not be started: ${problem.message}` }));
      child.send(order, (problem) => {
        if (problem) ended({ sentence: `the process of the run could not be told what to do: ${problem.message}` });
      });
    });
  }

  async close(): Promise<void> {
    this.isClosed = true;
    for (const child of this.idle.splice(0)) child.kill('SIGKILL');
  }
}

/** Who may have ended a process. */
function whoRuns(order: RunOrder): string {
  const units = (order.experiment.plan.units ?? []).map(({ component }) => component);
  const unit = units.length === 0 ? [] : [`the unit ${units.join(' or ')}`];
  return ['libraries' in order ? ['the code'] : [], unit].flat().join(', or ');
}

/** What ended a process, as somebody would say it who has written the code. @param who ran in it */
function exitWords(code: number | null, signal: NodeJS.Signals | null, who: string): string {
  switch (signal) {
    case 'SIGSEGV':
    case 'SIGBUS':
      return `${who} crashed: it read or wrote memory that is not its own`;
    case 'SIGFPE':
      return `${who} crashed: it divided a whole number by zero`;
    case 'SIGILL':
      return `${who} crashed: it ran an illegal instruction`;
    case 'SIGABRT':
      return `${who} ended itself (abort)`;
    case null:
      return `${who} ended its process (exit code ${code ?? 'unknown'})`;
    default:
      return `the process of the run was ended by ${signal}`;
  }
}
