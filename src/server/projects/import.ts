import { and, desc, eq } from 'drizzle-orm';
import { checkProject, contentHash, type Fault, type SourceFile } from '@/core';
import { type Database, tables } from '@/server/database';

/** A folder taken in: the revision it became, or the faults that keep it out. */
export type Imported = { readonly slug: string; readonly revision: number; readonly isNew: boolean } | { readonly faults: readonly Fault[] };

/** Imports the files of a project folder as a new revision; files equal to the newest revision change nothing. */
export async function importFiles(db: Database, files: readonly SourceFile[], actor: string, note: string): Promise<Imported> {
  const checked = checkProject(files);
  if (checked.faults.length > 0) return { faults: checked.faults };
  const { name, about } = checked.project;
  const slug = slugOf(name);
  const tree = files.map(({ path, text }) => ({ path, hash: contentHash(text), content: text }));
  return db.transaction(async (tx) => {
    await tx.insert(tables.projects).values({ slug, name, about, createdBy: actor }).onConflictDoNothing();
    const [project] = await tx.select().from(tables.projects).where(eq(tables.projects.slug, slug)).for('update');
    if (!project) throw new Error(`the project ${slug} vanished while it was imported`);
    const [newest] = await tx
      .select()
      .from(tables.revisions)
      .where(eq(tables.revisions.projectId, project.id))
      .orderBy(desc(tables.revisions.number))
      .limit(1);
    if (newest) {
      const old = await tx.select().from(tables.revisionFiles).where(eq(tables.revisionFiles.revisionId, newest.id));
      const before = new Map(old.map((file) => [file.path, file.hash]));
      if (before.size === tree.length && tree.every((file) => before.get(file.path) === file.hash))
        return { slug, revision: newest.number, isNew: false };
    }
    const number = (newest?.number ?? 0) + 1;
    const [revision] = await tx.insert(tables.revisions).values({ projectId: project.id, number, createdBy: actor, note }).returning();
    if (!revision) throw new Error('the revision was not written');
    await tx
      .insert(tables.documents)
      .values(tree.map(({ hash, content }) => ({ hash, content })))
      .onConflictDoNothing();
    await tx.insert(tables.revisionFiles).values(tree.map(({ path, hash }) => ({ revisionId: revision.id, path, hash })));
    await tx
      .update(tables.projects)
      .set({ name, about })
      .where(and(eq(tables.projects.id, project.id)));
    return { slug, revision: number, isNew: true };
  });
}

function slugOf(name: string): string {
  const slug = name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');
  return slug || 'project';
}
