import { campaignProgress, stopCampaign } from '@/server/campaigns';
import { database } from '@/server/database';
import { answer, refuse, send } from '../../answer';

/** Stops a campaign. */
export async function DELETE(_: Request, { params }: { params: Promise<{ campaign: string }> }): Promise<Response> {
  return answer(async () => {
    const { campaign } = await params;
    const id = /^\d{1,9}$/.test(campaign) ? Number(campaign) : 0;
    if (!(await campaignProgress(database(), id))) return refuse(404, 'There is no such campaign.');
    await stopCampaign(database(), id);
    return send(await campaignProgress(database(), id));
  });
}
