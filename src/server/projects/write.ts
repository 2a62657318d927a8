import { desc, eq } from 'drizzle-orm';
import type { SourceFile } from '@/core/documents';
import { contentHash } from '@/core/evidence';
import { inParts, type Transaction, tables } from '@/server/database';

/** Holds a project until the transaction ends. @returns the number of its newest revision, 0 without one */
export async function lockNewest(tx: Transaction, projectId: number): Promise<number> {
  await tx.select({ id: tables.projects.id }).from(tables.projects).where(eq(tables.projects.id, projectId)).for('update');
  const [newest] = await tx
    .select({ number: tables.revisions.number })
    .from(tables.revisions)
    .where(eq(tables.revisions.projectId, projectId))
    .orderBy(desc(tables.revisions.number))
    .limit(1);
  return newest?.number ?? 0;
}

/** Writes a revision: documents by content, and which of them stand where. */
export async function writeRevision(
  tx: Transaction,
  projectId: number,
  number: number,
  files: readonly SourceFile[],
  actor: string,
  note: string,
): Promise<void> {
  const [revision] = await tx.insert(tables.revisions).values({ projectId, number, createdBy: actor, note }).returning();
  if (!revision) throw new Error('the revision was not written');
  const tree = files.map(({ path, text }) => ({ path, hash: contentHash(text), content: text }));
  // In one order everywhere: two projects that save the same documents at once would else wait for each other.
  const contents = [...new Map(tree.map(({ hash, content }) => [hash, content]))].sort(([a], [b]) => (a < b ? -1 : 1));
  for (const part of inParts(contents))
    await tx
      .insert(tables.documents)
      .values(part.map(([hash, content]) => ({ hash, content })))
      .onConflictDoNothing();
  for (const part of inParts(tree))
    await tx.insert(tables.revisionFiles).values(part.map(({ path, hash }) => ({ revisionId: revision.id, path, hash })));
}
