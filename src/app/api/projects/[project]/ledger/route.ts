import { database } from '@/server/database';
import { readLedger } from '@/server/evidence';
import { findProject } from '@/server/projects';
import { answer, refuse, send } from '../../../answer';

/** What is known of every requirement of the newest revision. */
export async function GET(_: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return answer(async () => {
    const head = await findProject(database(), (await params).project);
    return head ? send(await readLedger(database(), head)) : refuse(404, 'There is no such project.');
  });
}
