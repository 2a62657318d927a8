import Joi from 'joi';
import type { Attempted } from '@/core/project';
import { listOf, object, required } from '@/core/shapes';
import { database } from '@/server/database';
import { keepAttempts } from '@/server/evidence';
import { findProject } from '@/server/projects';
import { answer, readBody, refuse, send } from '../../../answer';

const name = { joi: Joi.string().max(200) };
type Margin = NonNullable<Attempted['margin']>;

const shape = object<{ readonly attempts: readonly Attempted[] }>({
  attempts: required(
    listOf(
      object<Attempted>({
        requirement: required(name),
        criterion: required(name),
        tries: required({ joi: Joi.number().integer().min(1).max(1_000_000_000) }),
        margin: object<Margin>({
          value: required({ joi: Joi.number().unsafe() }),
          unit: required({ joi: Joi.string().allow('').max(50) }),
          measure: required({ joi: Joi.number().unsafe() }),
          atLeast: { joi: Joi.boolean() },
        }),
        ground: required({ joi: Joi.string().hex().length(64) }),
      }),
      (list) => list.max(1000),
    ),
  ),
});

/** Keeps what a search has tried to break in vain. */
export async function POST(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return answer(async () => {
    const body = await readBody(request, shape);
    if (body instanceof Response) return body;
    const head = await findProject(database(), (await params).project);
    if (!head) return refuse(404, 'There is no such project.');
    await keepAttempts(database(), head, body.attempts, 'local user');
    return send({}, 201);
  });
}
