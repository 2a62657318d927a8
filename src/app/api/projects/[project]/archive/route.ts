import { zipSync } from 'fflate';
import { isBinaryDocument, takenFromFile, writeTakenFrom } from '@/core/documents';
import { database } from '@/server/database';
import { findProject, readFiles } from '@/server/projects';
import { answer, refuse } from '../../../answer';

/** The newest revision of a project as a ZIP archive of its folder, with a file that says which revision it is. */
export async function GET(_request: Request, { params }: { params: Promise<{ project: string }> }): Promise<Response> {
  return answer(async () => {
    const { project } = await params;
    const head = await findProject(database(), project);
    if (!head) return refuse(404, 'There is no such project.');
    const files = await readFiles(database(), head.revisionId);
    const encoder = new TextEncoder();
    const stamp = { path: takenFromFile, text: writeTakenFrom({ project: head.identity, revision: head.revision }) };
    const archive = zipSync(
      Object.fromEntries(
        [...files, stamp].map(({ path, text }) => [
          `${project}/${path}`,
          isBinaryDocument(path) ? Buffer.from(text, 'base64') : encoder.encode(text),
        ]),
      ),
    );
    return new Response(Buffer.from(archive), {
      headers: { 'content-type': 'application/zip', 'content-disposition': `attachment; filename="${project}.zip"` },
    });
  });
}
