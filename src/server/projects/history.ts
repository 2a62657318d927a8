import { and, asc, eq, inArray, like } from 'drizzle-orm';
import type { RequirementsVersion } from '@/core/requirements';
import { type Database, tables } from '@/server/database';

/**
 * The documents of requirements in every revision, as far as they speak of one requirement. A document that many revisions share is read once; one in which the id never
 * stands is left out.
 */
export async function readRequirementsVersions(db: Database, projectId: number, id: string): Promise<RequirementsVersion[]> {
  const { revisions, revisionFiles, documents } = tables;
  const held = await db
    .select({
      revision: revisions.number,
      on: revisions.createdAt,
      by: revisions.createdBy,
      note: revisions.note,
      path: revisionFiles.path,
      hash: revisionFiles.hash,
    })
    .from(revisions)
    .innerJoin(revisionFiles, and(eq(revisionFiles.revisionId, revisions.id), like(revisionFiles.path, 'requirements/%')))
    .where(eq(revisions.projectId, projectId))
    .orderBy(asc(revisions.number), asc(revisionFiles.path));
  const hashes = [...new Set(held.map((one) => one.hash))];
  const texts =
    hashes.length === 0
      ? []
      : await db
          .select()
          .from(documents)
          .where(and(inArray(documents.hash, hashes), like(documents.content, `%${escaped(id)}%`)));
  const contents = new Map(texts.map(({ hash, content }) => [hash, content]));
  const versions = new Map<number, RequirementsVersion>();
  for (const { revision, on, by, note, path, hash } of held) {
    const version = versions.get(revision) ?? { revision, on: on.toISOString(), by, note, files: [] };
    const text = contents.get(hash);
    versions.set(revision, text === undefined ? version : { ...version, files: [...version.files, { path, text }] });
  }
  return [...versions.values()];
}

function escaped(text: string): string {
  return text.replace(/[\\%_]/g, '\\$&');
}
