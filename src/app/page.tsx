import { redirect } from 'next/navigation';
import { database } from '@/server/database';
import { listProjects } from '@/server/projects';

export const dynamic = 'force-dynamic';

/** The first screen is the ledger of a project. */
export default async function Home() {
  const [first] = await listProjects(database());
  if (first) redirect(`/p/${first.slug}`);
  return (
    <main className="mx-auto max-w-xl p-10">
      <h1 className="headline">No project yet.</h1>
      <p className="prose-line mt-3">
        Take in a folder of text files: <code className="figure">npm run import -- FOLDER</code>. The folder holds a project.yaml and the folders
        requirements, components, loops and cases.
      </p>
    </main>
  );
}
