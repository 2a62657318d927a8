import { and, desc, eq } from 'drizzle-orm';
import { checkProject, contentHash, type Fault, fileNameOf, type SourceFile } from '@/core';
import { type Database, type Transaction, tables } from '@/server/database';
import { type ProjectHead, readFiles } from './open';

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
    await writeRevision(tx, project.id, number, tree, actor, note);
    await tx
      .update(tables.projects)
      .set({ name, about })
      .where(and(eq(tables.projects.id, project.id)));
    return { slug, revision: number, isNew: true };
  });
}

/** Writes a revision: documents by content, and which of them stand where. */
async function writeRevision(
  tx: Transaction,
  projectId: number,
  number: number,
  tree: readonly { readonly path: string; readonly hash: string; readonly content: string }[],
  actor: string,
  note: string,
): Promise<void> {
  const [revision] = await tx.insert(tables.revisions).values({ projectId, number, createdBy: actor, note }).returning();
  if (!revision) throw new Error('the revision was not written');
  await tx
    .insert(tables.documents)
    .values(tree.map(({ hash, content }) => ({ hash, content })))
    .onConflictDoNothing();
  await tx.insert(tables.revisionFiles).values(tree.map(({ path, hash }) => ({ revisionId: revision.id, path, hash })));
}

/** What became of a save: a new revision, the faults that keep it out, or the newer revision that stands in its way. */
export type Saved = { readonly revision: number } | { readonly faults: readonly Fault[] } | { readonly conflict: number };

/** Saves some documents of a project over the revision they were edited from; the others stay as they are. */
export async function saveFiles(
  db: Database,
  head: ProjectHead,
  base: number,
  changed: readonly SourceFile[],
  actor: string,
  note: string,
): Promise<Saved> {
  const texts = new Map((await readFiles(db, head.revisionId)).map((file) => [file.path, file.text]));
  for (const { path, text } of changed) texts.set(path, text.replace(/\r\n/g, '\n'));
  const files = [...texts].map(([path, text]) => ({ path, text }));
  const { faults } = checkProject(files);
  if (faults.length > 0) return { faults };
  return db.transaction(async (tx) => {
    await tx.select().from(tables.projects).where(eq(tables.projects.id, head.id)).for('update');
    const [newest] = await tx
      .select({ number: tables.revisions.number })
      .from(tables.revisions)
      .where(eq(tables.revisions.projectId, head.id))
      .orderBy(desc(tables.revisions.number))
      .limit(1);
    if (newest?.number !== base) return { conflict: newest?.number ?? 0 };
    const tree = files.map(({ path, text }) => ({ path, hash: contentHash(text), content: text }));
    await writeRevision(tx, head.id, base + 1, tree, actor, note);
    return { revision: base + 1 };
  });
}

/** The word that stands for a project in addresses. */
export function slugOf(name: string): string {
  return fileNameOf(name) || 'project';
}
