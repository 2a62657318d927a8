import { readCampaign } from '@/server/campaigns';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { answer, refuse, send } from '../../../../answer';
import { numberIn } from '../../../../numberIn';

/** A campaign with what its runs have found so far. */
export async function GET(_: Request, { params }: { params: Promise<{ project: string; campaign: string }> }): Promise<Response> {
  return answer(async () => {
    const { project, campaign } = await params;
    const head = await findProject(database(), project);
    const found = head && (await readCampaign(database(), head, numberIn(campaign)));
    return found ? send(found) : refuse(404, 'There is no such campaign.');
  });
}
