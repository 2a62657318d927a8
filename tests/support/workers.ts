import { type ChildProcess, spawn } from 'node:child_process';
import { afterEach } from 'vitest';
import { databaseAddress } from './stack';

/** Workers of a test file on the database of the tests; whatever still lives after a test is ended. */
export function workersOfTests(): { readonly startWorker: () => ChildProcess } {
  const workers: ChildProcess[] = [];
  afterEach(async () => {
    for (const worker of workers.splice(0)) {
      worker.kill('SIGTERM');
      await gone(worker);
    }
  });
  const startWorker = (): ChildProcess => {
    const worker = spawn(process.execPath, ['dist/worker.mjs'], {
      env: { ...process.env, OVRAND_DATABASE: databaseAddress(), OVRAND_LOG: 'error' },
      stdio: 'inherit',
    });
    workers.push(worker);
    return worker;
  };
  return { startWorker };
}

/** Waits for the end of a process. */
export function gone(child: ChildProcess): Promise<unknown> {
  return child.exitCode !== null || child.signalCode !== null ? Promise.resolve() : new Promise((resolve) => child.once('exit', resolve));
}
