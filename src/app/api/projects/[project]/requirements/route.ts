import { requirementItems, tableOf, writeCsvTable, writeMarkdown, writeReqif } from '@/core/requirements';
import { database } from '@/server/database';
import { findProject, openRevision, readFiles } from '@/server/projects';
import { writeXlsx } from '@/server/tables';
import { answer, refuse, send } from '../../../answer';

const kinds = {
  csv: 'text/csv; charset=utf-8',
  md: 'text/markdown; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  reqif: 'application/xml; charset=utf-8',
} as const;

/** Ids and texts alone, to be found by. */
async function listed(project: string): Promise<Response> {
  const head = await findProject(database(), project);
  if (!head) return refuse(404, 'There is no such project.');
  const { requirements } = (await openRevision(database(), head.revisionId)).project;
  return send(requirements.map(({ raw }) => ({ id: raw.requirement, text: raw.text })));
}

/** The requirements of the newest revision as a file: `?as=csv`, `md`, `xlsx` or `reqif`; the last in the document they came from, if one is kept. */
export async function GET(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return answer(async () => {
    const as = new URL(request.url).searchParams.get('as') ?? '';
    if (as === 'list') return listed((await params).project);
    if (!Object.hasOwn(kinds, as)) return refuse(400, 'Say as what: ?as=csv, md, xlsx or reqif.');
    const kind = as as keyof typeof kinds;
    const head = await findProject(database(), (await params).project);
    if (!head) return refuse(404, 'There is no such project.');
    const files = await readFiles(database(), head.revisionId);
    const items = requirementItems(files);
    const original = files.find((file) => /\.reqif$/i.test(file.path))?.text;
    const body = {
      csv: () => writeCsvTable(tableOf(items)),
      md: () => writeMarkdown(items),
      xlsx: () => writeXlsx(tableOf(items), 'Requirements'),
      reqif: () => writeReqif(items, original).text,
    }[kind]();
    return new Response(await body, {
      headers: { 'content-type': kinds[kind], 'content-disposition': `attachment; filename="${head.slug}-requirements.${kind}"` },
    });
  });
}
