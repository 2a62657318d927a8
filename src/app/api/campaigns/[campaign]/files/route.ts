import { findDocument } from '@/server/campaigns';
import { database } from '@/server/database';
import { readFiles } from '@/server/projects';
import { answer, refuse, send } from '../../../answer';
import { numberIn } from '../../../numberIn';

/** The documents a campaign was started on, from which the browser makes any of its runs again. */
export async function GET(_: Request, { params }: { params: Promise<{ campaign: string }> }): Promise<Response> {
  return answer(async () => {
    const opened = await findDocument(database(), numberIn((await params).campaign));
    return opened ? send(await readFiles(database(), opened.row.revisionId)) : refuse(404, 'There is no such campaign.');
  });
}
