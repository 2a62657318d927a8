import { examineConsistency } from '@/core/consistency';
import { database } from '@/server/database';
import { findProject, openRevision } from '@/server/projects';
import { openSolver } from '@/server/solver';
import { answer, refuse, send } from '../../../answer';

/** The accepted criteria of the newest revision against each other. */
export async function POST(_: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return answer(async () => {
    const head = await findProject(database(), (await params).project);
    if (!head) return refuse(404, 'There is no such project.');
    const solver = openSolver();
    try {
      return send(await examineConsistency(await openRevision(database(), head.revisionId), solver.solve));
    } finally {
      await solver.close();
    }
  });
}
