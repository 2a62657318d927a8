import { nameKey } from '@/core/language';
import { proposePairs } from '@/core/project';
import { database } from '@/server/database';
import { findProject, openRevision } from '@/server/projects';
import { answer, refuse, send } from '../../../answer';

/** The pairs that are proposed between the controller of a loop and another loop. */
export async function GET(request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return answer(async () => {
    const head = await findProject(database(), (await params).project);
    if (!head) return refuse(404, 'There is no such project.');
    const { project } = await openRevision(database(), head.revisionId);
    const { searchParams } = new URL(request.url);
    const [from, host] = ['controller', 'host'].map((key) => project.loops.get(nameKey(searchParams.get(key) ?? '')));
    return from && host ? send(proposePairs(project, from, host)) : refuse(404, 'There is no such loop.');
  });
}
