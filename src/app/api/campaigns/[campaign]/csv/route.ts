import { runsCsv } from '@/core/campaign';
import { findDocument, readTable } from '@/server/campaigns';
import { database } from '@/server/database';
import { answer, refuse } from '../../../answer';
import { numberIn } from '../../../numberIn';

/** A row for each run of a campaign as CSV. */
export async function GET(_: Request, { params }: { params: Promise<{ campaign: string }> }): Promise<Response> {
  return answer(async () => {
    const opened = await findDocument(database(), numberIn((await params).campaign));
    if (!opened) return refuse(404, 'There is no such campaign.');
    const name = encodeURIComponent(`${opened.campaign.document.raw.campaign}.csv`);
    const text = runsCsv(await readTable(database(), opened.row.id), opened.laid);
    return new Response(text, {
      headers: { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': `attachment; filename*=UTF-8''${name}` },
    });
  });
}
