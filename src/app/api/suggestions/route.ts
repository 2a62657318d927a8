import Joi from 'joi';
import { suggestionsAt } from '@/core/documents';
import { object, required } from '@/core/shapes';
import { answer, readBody, send } from '../answer';

/** Longer documents take too long to read while somebody types. */
const longest = 300_000;

const shape = object<{ readonly path: string; readonly text: string; readonly offset: number }>({
  path: required({ joi: Joi.string().max(300) }),
  text: required({ joi: Joi.string().allow('') }),
  offset: required({ joi: Joi.number().integer().min(0) }),
});

/** What the language has at a place of a document. The shapes are asked here: in a browser the shape library cannot say what is in them. */
export async function POST(request: Request): Promise<Response> {
  return answer(async () => {
    const body = await readBody(request, shape);
    if (body instanceof Response) return body;
    return send(body.text.length > longest ? [] : suggestionsAt(body.path, body.text, body.offset));
  });
}
