import Joi from 'joi';
import { database } from '@/server/database';
import { writeReport } from '@/server/evidence';
import { findProject } from '@/server/projects';
import { answer, refuse } from '../../../answer';

const format = Joi.string().valid('csv', 'junit').required();

/** The ledger as CSV or JUnit XML. */
export async function GET(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return answer(async () => {
    const { error, value } = format.validate(new URL(request.url).searchParams.get('format'));
    if (error) return refuse(400, 'The format is csv or junit.');
    const head = await findProject(database(), (await params).project);
    if (!head) return refuse(404, 'There is no such project.');
    const kind = value as 'csv' | 'junit';
    const type = kind === 'csv' ? 'text/csv; charset=utf-8' : 'application/xml; charset=utf-8';
    const name = `${head.slug}-revision-${head.revision}.${kind === 'csv' ? 'csv' : 'xml'}`;
    return new Response(await writeReport(database(), head, kind), {
      headers: { 'content-type': type, 'content-disposition': `attachment; filename="${name}"` },
    });
  });
}
