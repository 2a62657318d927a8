import { type ChildProcess, fork } from 'node:child_process';
import path from 'node:path';
import type { BenchOrder, LiveShadow } from '@/core/project';
import { distFolder } from '@/server/threads';

/** What the process of a bench is told. */
export interface BenchTask {
  readonly order: BenchOrder;
  /** Made to its end; by hand, without one; each wire tried; or the controller brought to its safe state, and that is all. */
  readonly mode: 'run' | 'live' | 'check' | 'safe';
  /** By hand: slots whose values are told. */
  readonly watched?: readonly number[];
  readonly shadow?: LiveShadow;
}

/** What the process says once a controller that somebody else has left alone is in its safe state. */
export const isSafe = 'the controller was brought to its safe state';

/** How a process that keeps time is started: its collector of garbage does not wait for threads of lower priority. */
export const timedProcess = ['--single-threaded-gc'] as const;

/** How long a bench may take to bring its controller to the safe state once it is told to stop (ms). */
const safeMs = 10_000;

/** Starts the process of a bench, and tells it what to do. @param failed is told why it could not be */
export function startBench(task: BenchTask, failed: (why: string) => void): ChildProcess {
  return started(path.join(distFolder(), 'bench-runner.mjs'), task, failed);
}

function started(file: string, task: BenchTask, failed: (why: string) => void): ChildProcess {
  const child = fork(file, { serialization: 'advanced', execArgv: [...timedProcess] });
  child.on('error', (problem) => failed(`the process of the bench could not be started: ${problem.message}`));
  child.send(task, (problem) => {
    if (problem) failed(`the process of the bench could not be told its task: ${problem.message}`);
  });
  return child;
}

/** Ends it: it brings its controller to the safe state first, or is ended if that takes too long. */
export function endBench(child: ChildProcess): void {
  child.kill('SIGTERM');
  setTimeout(() => child.kill('SIGKILL'), safeMs).unref();
}

/** Brings the controller of a bench to its safe state after its process has died. @returns a sentence where it could not */
export function makeSafe(order: BenchOrder): Promise<string | undefined> {
  return new Promise((resolve) => {
    let words = 'nobody could bring the controller to its safe state';
    const child = startBench({ order, mode: 'safe' }, (why) => {
      words = why;
    });
    child.on('message', ({ why }: { readonly why?: string }) => {
      if (why) words = why;
    });
    child.on('close', () => resolve(words === isSafe ? undefined : words));
  });
}
