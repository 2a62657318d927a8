import type { SourceFile } from '@/core/documents';
import { LimitedThreads } from '@/server/threads';
import type { Checked } from './checkThread';

const limits = { seconds: 30, heapMb: 1024 };
const threads = new LimitedThreads<readonly SourceFile[], Checked>('check-thread', limits);

/** Checks documents that nobody has checked yet, apart from the server's own thread. What takes too much is a fault, and is never saved. */
export async function checkApart(files: readonly SourceFile[]): Promise<Checked> {
  const asked = await threads.ask(files);
  if ('answer' in asked) return asked.answer;
  const much = asked.ended === 'too long' ? `longer than ${limits.seconds} s` : `more than ${limits.heapMb / 1024} GB of memory`;
  return {
    name: '',
    about: '',
    faults: [
      {
        code: 'too-large',
        place: { file: 'project.yaml', line: 1, column: 1 },
        message: `To read this project takes ${much}; nothing was saved.`,
        fix: 'Undo the last change; structures, function blocks or sums that contain each other many times over grow very large.',
      },
    ],
  };
}
