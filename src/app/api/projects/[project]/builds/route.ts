import { zipSync } from 'fflate';
import Joi from 'joi';
import { object, required } from '@/core/shapes';
import { database } from '@/server/database';
import { buildFiles, buildLoop } from '@/server/evidence';
import { findProject } from '@/server/projects';
import { answer, readBody, refuse, send } from '../../../answer';

type Params = { readonly params: Promise<{ project: string }> };

const shape = object<{ readonly loop: string }>({ loop: required({ joi: Joi.string().max(400) }) });

/** Compiles the controllers of a loop. */
export async function POST(request: Request, { params }: Params): Promise<Response> {
  return answer(async () => {
    const body = await readBody(request, shape);
    if (body instanceof Response) return body;
    const head = await findProject(database(), (await params).project);
    if (!head) return refuse(404, 'There is no such project.');
    const problem = await buildLoop(database(), head, body.loop, 'local user');
    return problem === undefined ? send({}, 201) : refuse(409, problem);
  });
}

/** The build of a loop as a ZIP archive: library, C and record. */
export async function GET(request: Request, { params }: Params): Promise<Response> {
  return answer(async () => {
    const head = await findProject(database(), (await params).project);
    if (!head) return refuse(404, 'There is no such project.');
    const files = await buildFiles(database(), head, new URL(request.url).searchParams.get('loop') ?? '');
    if (typeof files === 'string') return refuse(404, files);
    return new Response(Buffer.from(zipSync(files)), {
      headers: { 'content-type': 'application/zip', 'content-disposition': `attachment; filename="${head.slug}-build.zip"` },
    });
  });
}
