import path from 'node:path';
import type { CodeOrder, RunResult } from '@/core/project';
import type { SentTrace } from '@/core/trace';
import { CodePool } from './codePool';

/** A run of code, made again for its trace. */
export interface RecordedOfCode {
  readonly result: RunResult;
  readonly trace: SentTrace;
}

/** Makes a run of code once more and gives what it recorded; nothing where it does not come to an end. */
export async function recordedOfCode(order: CodeOrder): Promise<RecordedOfCode | undefined> {
  const folder = process.env.OVRAND_DIST ?? path.join(/* turbopackIgnore: true */ process.cwd(), 'dist');
  const pool = new CodePool(path.join(folder, 'code-runner.mjs'), 1);
  try {
    const attempt = await pool.run({ ...order, wantsTrace: true });
    if (attempt.k !== 'ran' || !attempt.ran.trace) return undefined;
    return { result: attempt.ran.result, trace: attempt.ran.trace };
  } finally {
    await pool.close();
  }
}
