import { findDocument, readPictures } from '@/server/campaigns';
import { database } from '@/server/database';
import { answer, refuse, send } from '../../../../answer';
import { numberIn } from '../../../../numberIn';

/** What the runs of a campaign say of one criterion, to be drawn. */
export async function GET(_: Request, { params }: { params: Promise<{ campaign: string; criterion: string }> }): Promise<Response> {
  return answer(async () => {
    const { campaign, criterion } = await params;
    const opened = await findDocument(database(), numberIn(campaign));
    const found = opened && (await readPictures(database(), opened.row.id, numberIn(criterion)));
    return found ? send(found) : refuse(404, 'There is no such campaign, or it does not watch that criterion.');
  });
}
