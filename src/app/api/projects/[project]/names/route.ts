import { findableNames } from '@/core/project';
import { database } from '@/server/database';
import { findProject, openRevision } from '@/server/projects';
import { answer, refuse, send } from '../../../answer';

/** The loops, components, signals and desks of the newest revision, to be found by name. */
export async function GET(_request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return answer(async () => {
    const head = await findProject(database(), (await params).project);
    if (!head) return refuse(404, 'There is no such project.');
    return send(findableNames(await openRevision(database(), head.revisionId)));
  });
}
