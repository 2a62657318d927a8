import path from 'node:path';
import type { RunOrder, RunResult } from '@/core/project';
import type { SentTrace } from '@/core/trace';
import { distFolder } from '@/server/threads';
import { CodePool } from './codePool';

/** A run that no browser can make, made again for its trace. */
export interface RecordedRun {
  readonly result: RunResult;
  readonly trace: SentTrace;
}

/** What the browser needs to make a run again; where no browser can, as of units and of code that does something else than the model, what was recorded when it was run once more here. */
export interface ReplayOrder extends RunOrder {
  readonly recorded?: RecordedRun;
}

/** Makes a run of code or of units once more and gives what it recorded; nothing where it does not come to an end. */
export async function recordedRun(order: RunOrder): Promise<RecordedRun | undefined> {
  const pool = new CodePool(path.join(distFolder(), 'code-runner.mjs'), 1);
  try {
    const attempt = await pool.run({ ...order, wantsTrace: true });
    if (attempt.k !== 'ran' || !attempt.ran.trace) return undefined;
    return { result: attempt.ran.result, trace: attempt.ran.trace };
  } finally {
    await pool.close();
  }
}
