import { readCampaignReplay } from '@/server/campaigns';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { answer, refuse, send } from '../../../../../../answer';
import { numberIn } from '../../../../../../numberIn';

interface Context {
  readonly params: Promise<{ project: string; campaign: string; number: string }>;
}

/** What the browser needs to make one run of a campaign again. */
export async function GET(_: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const { project, campaign, number } = await params;
    const head = await findProject(database(), project);
    const found = head && (await readCampaignReplay(database(), head, numberIn(campaign), numberIn(number)));
    return found ? send(found) : refuse(404, 'There is no such run.');
  });
}
