import { type ChildProcess, fork } from 'node:child_process';
import { createHash } from 'node:crypto';
import { homedir } from 'node:os';
import path from 'node:path';
import { timedProcess } from '@/server/bench/process';

/** A stand-in that was started for a run. */
export interface StandIn {
  readonly host: string;
  readonly port: number;
  readonly hasEnded: boolean;
  end(): void;
}

/** Starts a stand-in in a process of its own, which ends with this one. @param speed how many times faster than the wall's its clock goes; @param lateMs how late a cycle of it may be */
export function startStandIn(bench: string, speed: number, lateMs: number): Promise<StandIn> {
  const name = createHash('sha256').update(bench).digest('hex').slice(0, 16);
  const folder = path.join(homedir(), '.cache', 'ovrand', 'stand-ins', name);
  const child: ChildProcess = fork(path.join(import.meta.dirname, 'device-process.mjs'), [folder, String(speed), String(lateMs)], {
    execArgv: [...timedProcess],
  });
  return new Promise((resolve, reject) => {
    child.once('exit', (code, signal) => reject(new Error(`the stand-in did not start (${signal ?? `exit code ${code}`})`)));
    child.once('error', reject);
    child.once('message', ({ port }: { readonly port: number }) => {
      child.removeAllListeners('exit');
      resolve({
        host: '127.0.0.1',
        port,
        get hasEnded() {
          return child.exitCode !== null || child.signalCode !== null;
        },
        end: () => child.kill('SIGTERM'),
      });
    });
  });
}
