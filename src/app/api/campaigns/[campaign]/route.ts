import Joi from 'joi';
import { object, oneOf } from '@/core/shapes';
import { campaignProgress, pauseCampaign, resumeCampaign, setPriority, stopCampaign } from '@/server/campaigns';
import { database } from '@/server/database';
import { answer, readBody, refuse, send } from '../../answer';
import { numberIn } from '../../numberIn';

interface Context {
  readonly params: Promise<{ campaign: string }>;
}

/** Stops a campaign. */
export async function DELETE(_: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const id = numberIn((await params).campaign);
    if (!(await campaignProgress(database(), id))) return refuse(404, 'There is no such campaign.');
    await stopCampaign(database(), id);
    return send(await campaignProgress(database(), id));
  });
}

interface Asked {
  readonly state?: 'paused' | 'running';
  readonly priority?: number;
}

const shape = object<Asked>({ state: oneOf('paused', 'running'), priority: { joi: Joi.number().integer().min(-1000).max(1000) } }, (schema) =>
  schema.min(1),
);

/** Holds a campaign, lets it go on, or puts it before others. */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  return answer(async () => {
    const body = await readBody(request, shape);
    if (body instanceof Response) return body;
    const id = numberIn((await params).campaign);
    if (!(await campaignProgress(database(), id))) return refuse(404, 'There is no such campaign.');
    if (body.state === 'paused') await pauseCampaign(database(), id);
    if (body.state === 'running') await resumeCampaign(database(), id);
    if (body.priority !== undefined) await setPriority(database(), id, body.priority);
    return send(await campaignProgress(database(), id));
  });
}
