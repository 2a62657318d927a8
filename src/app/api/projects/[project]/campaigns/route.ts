import Joi from 'joi';
import { listOf, object, oneOf, type Stage, stages } from '@/core/shapes';
import { startCampaign, startDocument } from '@/server/campaigns';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { answer, readBody, refuse, send } from '../../../answer';

interface Asked {
  readonly cases?: readonly string[];
  /** Runs of cases at this stage alone. */
  readonly stage?: Stage;
  /** Name of a campaign document. */
  readonly document?: string;
}

const shape = object<Asked>(
  {
    cases: listOf({ joi: Joi.string().max(200) }, (list) => list.min(1).max(10_000)),
    stage: oneOf(...stages),
    document: { joi: Joi.string().max(200) },
  },
  (schema) => schema.oxor('cases', 'document'),
);

/** Starts a campaign: of a document, over the cases named, or over all of them. */
export async function POST(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return answer(async () => {
    const body = await readBody(request, shape);
    if (body instanceof Response) return body;
    const head = await findProject(database(), (await params).project);
    if (!head) return refuse(404, 'There is no such project.');
    const actor = 'local user';
    const started =
      body.document === undefined
        ? await startCampaign(database(), head, body.cases, actor, body.stage)
        : await startDocument(database(), head, body.document, actor);
    return typeof started === 'string' ? refuse(400, started) : send({ id: started }, 201);
  });
}
