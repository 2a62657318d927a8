import { createHash } from 'node:crypto';
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { homedir } from 'node:os';
import path from 'node:path';

/** Who has a bench. */
export interface Holder {
  readonly pid: number;
  /** In words: "a run of Full cycle". */
  readonly what: string;
  /** ISO 8601. */
  readonly since: string;
}

function fileOf(controller: string): string {
  const name = createHash('sha256').update(controller).digest('hex').slice(0, 16);
  return path.join(homedir(), '.cache', 'ovrand', 'benches', `${name}.json`);
}

/** Who has the bench of a controller at present; somebody who is not there any more has nothing. */
export function holderOf(controller: string): Holder | undefined {
  try {
    const holder = JSON.parse(readFileSync(fileOf(controller), 'utf8')) as Holder;
    return isAlive(holder.pid) ? holder : undefined;
  } catch {
    return undefined;
  }
}

function isAlive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (problem) {
    // It is there, and another user's.
    return (problem as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/** How often it is asked whether a bench is free (ms). */
const askEveryMs = 100;

/**
 * Has a bench for oneself, once whoever has it has let it go: one at a time on a machine.
 * @param stopped ends the waiting
 * @returns what lets it go; nothing where the waiting was ended
 */
export async function reserve(controller: string, what: string, stopped?: AbortSignal): Promise<(() => void) | undefined> {
  while (!stopped?.aborted) {
    const release = tryReserve(controller, what);
    if (release) return release;
    await new Promise((resolve) => setTimeout(resolve, askEveryMs));
  }
  return undefined;
}

/** Has a bench for oneself if nobody else has it. */
export function tryReserve(controller: string, what: string): (() => void) | undefined {
  const file = fileOf(controller);
  const holder: Holder = { pid: process.pid, what, since: new Date().toISOString() };
  mkdirSync(path.dirname(file), { recursive: true });
  if (!holderOf(controller)) rmSync(file, { force: true });
  try {
    writeFileSync(file, JSON.stringify(holder), { flag: 'wx' });
    return () => rmSync(file, { force: true });
  } catch (problem) {
    if ((problem as NodeJS.ErrnoException).code === 'EEXIST') return undefined;
    throw problem;
  }
}
