import { and, asc, desc, eq, type SQL } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import type { SourceFile } from '@/core/documents';
import { type CheckedProject, checkProjectInSteps } from '@/core/project';
import { type Database, tables } from '@/server/database';
import { restingBetween } from './restingBetween';

export interface ProjectHead {
  readonly id: number;
  readonly identity: string;
  readonly slug: string;
  readonly name: string;
  readonly about: string;
  readonly revisionId: number;
  readonly revision: number;
}

/** All projects, the oldest first. */
export async function listProjects(db: Database): Promise<{ slug: string; name: string }[]> {
  return db.select({ slug: tables.projects.slug, name: tables.projects.name }).from(tables.projects).orderBy(asc(tables.projects.id));
}

/** The newest revision of the project that stands under a word in addresses. */
export async function findProject(db: Database, slug: string): Promise<ProjectHead | undefined> {
  return findHead(db, eq(tables.projects.slug, slug));
}

/** The newest revision of a project by its name; of several that are called so, the newest. */
export async function findProjectByName(db: Database, name: string): Promise<ProjectHead | undefined> {
  return findHead(db, eq(tables.projects.name, name));
}

async function findHead(db: Database, which: SQL): Promise<ProjectHead | undefined> {
  const [row] = await db
    .select({
      id: tables.projects.id,
      identity: tables.projects.identity,
      slug: tables.projects.slug,
      name: tables.projects.name,
      about: tables.projects.about,
      revisionId: tables.revisions.id,
      revision: tables.revisions.number,
    })
    .from(tables.projects)
    .innerJoin(tables.revisions, eq(tables.revisions.projectId, tables.projects.id))
    .where(which)
    .orderBy(desc(tables.projects.id), desc(tables.revisions.number))
    .limit(1);
  return row;
}

/** The key of a revision by its number. */
export async function findRevision(db: Database, projectId: number, number: number): Promise<number | undefined> {
  const { revisions } = tables;
  const [row] = await db
    .select({ id: revisions.id })
    .from(revisions)
    .where(and(eq(revisions.projectId, projectId), eq(revisions.number, number)));
  return row?.id;
}

/** The documents of a revision, in the order of their paths. */
export async function readFiles(db: Database, revisionId: number): Promise<SourceFile[]> {
  const files = await db
    .select({ path: tables.revisionFiles.path, text: tables.documents.content })
    .from(tables.revisionFiles)
    .innerJoin(tables.documents, eq(tables.documents.hash, tables.revisionFiles.hash))
    .where(eq(tables.revisionFiles.revisionId, revisionId))
    .orderBy(asc(tables.revisionFiles.path));
  if (files.length === 0) throw new Error(`there is no revision ${revisionId}`);
  return files;
}

const kept = new LRUCache<number, Promise<CheckedProject>>({ max: 16 });

/** A revision, checked. Revisions never change, so the result is kept; several that ask at once wait for the same check. */
export function openRevision(db: Database, revisionId: number): Promise<CheckedProject> {
  const known = kept.get(revisionId);
  if (known) return known;
  const opening = readFiles(db, revisionId).then((files) => restingBetween(checkProjectInSteps(files)));
  kept.set(revisionId, opening);
  // What failed, as a database that is away, is tried again.
  opening.catch(() => kept.delete(revisionId));
  return opening;
}
