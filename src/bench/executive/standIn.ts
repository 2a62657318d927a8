import { type ChildProcess, fork } from 'node:child_process';
import { createHash } from 'node:crypto';
import { homedir } from 'node:os';
import path from 'node:path';
import { timedProcess } from '../priority';

/** A stand-in that was started for a run. */
export interface StandIn {
  readonly host: string;
  readonly port: number;
  end(): void;
}

/** Starts a stand-in in a process of its own, which ends with this one. @param speed how many times faster than the wall's its clock goes */
export function startStandIn(bench: string, speed: number): Promise<StandIn> {
  const name = createHash('sha256').update(bench).digest('hex').slice(0, 16);
  const folder = path.join(homedir(), '.cache', 'ovrand', 'stand-ins', name);
  const child: ChildProcess = fork(path.join(import.meta.dirname, 'device-process.mjs'), [folder, String(speed)], { execArgv: [...timedProcess] });
  return new Promise((resolve, reject) => {
    child.once('exit', (code, signal) => reject(new Error(`the stand-in did not start (${signal ?? `exit code ${code}`})`)));
    child.once('error', reject);
    child.once('message', ({ port }: { readonly port: number }) => {
      child.removeAllListeners('exit');
      resolve({ host: '127.0.0.1', port, end: () => child.kill('SIGTERM') });
    });
  });
}
