import { readWorkbook } from '@/server/tables';
import { answer, readBytes, refuse, send } from '../answer';

const largest = 20_000_000;

/** The first sheet of a workbook as headings and rows of text. */
export async function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const bytes = await readBytes(request, largest);
    if (bytes instanceof Response) return bytes;
    const table = await readWorkbook(bytes);
    return 'problem' in table ? refuse(400, table.problem) : send(table);
  });
}
