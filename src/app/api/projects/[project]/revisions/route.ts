import Joi from 'joi';
import { isDocumentPath, type SourceFile } from '@/core/documents';
import { listOf, object, required, type Shape } from '@/core/shapes';
import { plural } from '@/core/wording';
import { database } from '@/server/database';
import { findProject, findRevision, readFiles, saveFiles } from '@/server/projects';
import { answer, readBody, refuse, send } from '../../../answer';

const documentPath: Shape<string> = {
  joi: Joi.string()
    .max(300)
    .custom((path: string, helpers) => (isDocumentPath(path) ? path : helpers.error('place')))
    .messages({ place: 'no document of a project may stand at "{#value}"' }),
};

interface Saving {
  /** Number of the revision that the documents were edited from. */
  readonly base: number;
  readonly files: readonly SourceFile[];
  readonly note?: string;
}

const file = object<SourceFile>({ path: required(documentPath), text: required({ joi: Joi.string().allow('').max(2_000_000) }) });

const shape = object<Saving>({
  base: required({ joi: Joi.number().integer().min(1) }),
  files: required(listOf(file, (list) => list.min(1).max(500))),
  note: { joi: Joi.string().max(1000) },
});

/** The documents of one revision, `?number=3`, or of the newest, with the identity of the project, so that an archive can be told to be of it. */
export async function GET(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return answer(async () => {
    const head = await findProject(database(), (await params).project);
    if (!head) return refuse(404, 'There is no such project.');
    const number = new URL(request.url).searchParams.get('number') ?? String(head.revision);
    const id = /^\d{1,9}$/.test(number) ? await findRevision(database(), head.id, Number(number)) : undefined;
    if (id === undefined) return refuse(404, 'There is no such revision.');
    return send({ identity: head.identity, revision: Number(number), files: await readFiles(database(), id) });
  });
}

/** Saves changed documents as a new revision on top of the one they were edited from. */
export async function POST(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return answer(async () => {
    const body = await readBody(request, shape, 20_000_000);
    if (body instanceof Response) return body;
    const head = await findProject(database(), (await params).project);
    if (!head) return refuse(404, 'There is no such project.');
    const saved = await saveFiles(database(), head, body.base, body.files, 'local user', body.note ?? 'edited in the browser');
    if ('faults' in saved) return refuse(400, `Not saved, ${plural(saved.faults.length, 'fault')}: ${saved.faults[0]?.message ?? ''}`);
    if ('conflict' in saved)
      return refuse(409, `Not saved: somebody saved revision ${saved.conflict} in the meantime. Look at the changes, then save again.`);
    return send(saved, 201);
  });
}
