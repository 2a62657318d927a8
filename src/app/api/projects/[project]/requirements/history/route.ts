import { historyOf } from '@/core/requirements';
import { database } from '@/server/database';
import { findProject, readRequirementsVersions } from '@/server/projects';
import { answer, refuse, send } from '../../../../answer';

/** What became of one requirement, revision by revision, the newest first: `?of=ID`. */
export async function GET(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return answer(async () => {
    const id = new URL(request.url).searchParams.get('of') ?? '';
    if (id === '' || id.length > 200) return refuse(400, 'Say of which requirement: ?of=ID.');
    const head = await findProject(database(), (await params).project);
    if (!head) return refuse(404, 'There is no such project.');
    return send(historyOf(id, await readRequirementsVersions(database(), head.id, id)));
  });
}
