import { readCampaignCoverage } from '@/server/campaigns';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { answer, refuse, send } from '../../../../../answer';
import { numberIn } from '../../../../../numberIn';

/** What the runs of a campaign touched of the logic. */
export async function GET(_: Request, { params }: { params: Promise<{ project: string; campaign: string }> }): Promise<Response> {
  return answer(async () => {
    const { project, campaign } = await params;
    const head = await findProject(database(), project);
    const found = head && (await readCampaignCoverage(database(), head.id, numberIn(campaign)));
    return found ? send(found) : refuse(404, 'There is no such campaign here, or it was run before its runs were counted. Run it again.');
  });
}
