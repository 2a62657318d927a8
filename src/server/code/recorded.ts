import path from 'node:path';
import type { CodeOrder, RunOrder, RunResult } from '@/core/project';
import type { SentTrace } from '@/core/trace';
import { distFolder } from '@/server/threads';
import { CodePool } from './codePool';

/** A run of code, made again for its trace. */
export interface RecordedOfCode {
  readonly result: RunResult;
  readonly trace: SentTrace;
}

/** What the browser needs to make a run again; of code that does something else than the model, which no browser can run, what was recorded when it was run once more here. */
export interface ReplayOrder extends RunOrder {
  readonly code?: RecordedOfCode;
}

/** Makes a run of code once more and gives what it recorded; nothing where it does not come to an end. */
export async function recordedOfCode(order: CodeOrder): Promise<RecordedOfCode | undefined> {
  const pool = new CodePool(path.join(distFolder(), 'code-runner.mjs'), 1);
  try {
    const attempt = await pool.run({ ...order, wantsTrace: true });
    if (attempt.k !== 'ran' || !attempt.ran.trace) return undefined;
    return { result: attempt.ran.result, trace: attempt.ran.trace };
  } finally {
    await pool.close();
  }
}
