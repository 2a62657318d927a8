import Joi from 'joi';
import { listOf, object } from '@/core/shapes';
import { startCampaign } from '@/server/campaigns';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { answer, readBody, refuse, send } from '../../../answer';

interface Asked {
  readonly cases?: readonly string[];
}

const shape = object<Asked>({ cases: listOf({ joi: Joi.string().max(200) }, (list) => list.min(1).max(10_000)) });

/** Starts a campaign over the cases named, or all of them. */
export async function POST(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return answer(async () => {
    const body = await readBody(request, shape);
    if (body instanceof Response) return body;
    const head = await findProject(database(), (await params).project);
    if (!head) return refuse(404, 'There is no such project.');
    const started = await startCampaign(database(), head, body.cases, 'local user');
    return typeof started === 'string' ? refuse(400, started) : send({ id: started }, 201);
  });
}
