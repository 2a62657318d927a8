import type { Table } from '@/core/requirements';
import { LimitedThreads } from '@/server/threads';

const limits = { seconds: 60, heapMb: 1024 };
const threads = new LimitedThreads<Uint8Array, Table | { readonly problem: string }>('table-thread', limits);

/** The first sheet of a workbook, read apart from the server's own thread. @returns a sentence that says what is wrong with it, if something is */
export async function readWorkbook(bytes: Uint8Array): Promise<Table | { readonly problem: string }> {
  const asked = await threads.ask(bytes);
  if ('answer' in asked) return asked.answer;
  return {
    problem:
      asked.ended === 'too long'
        ? `To read this workbook takes longer than ${limits.seconds} s. Save the sheet as CSV.`
        : `This workbook unfolds to more than ${limits.heapMb / 1024} GB. Save the sheet as CSV.`,
  };
}
