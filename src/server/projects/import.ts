import { desc, eq, sql } from 'drizzle-orm';
import { fileNameOf, type SourceFile } from '@/core/documents';
import type { Fault } from '@/core/fault';
import { type DocumentClash, mergeDocuments } from '@/core/merge';
import type { TakenFrom } from '@/core/shapes';
import { type Database, tables } from '@/server/database';
import { checkApart } from './checkApart';
import { findRevision, type ProjectHead, readFiles } from './open';
import { lockNewest, writeRevision } from './write';

/** A folder taken in: the revision it became, the faults that keep it out, or what would be lost by it. */
export type Imported =
  | {
      readonly slug: string;
      readonly identity: string;
      readonly revision: number;
      readonly isNew: boolean;
      /** The folder holds the revision whole; otherwise the project holds changes of others, too. */
      readonly isWhole: boolean;
    }
  | { readonly faults: readonly Fault[] }
  | { readonly refused: Refusal };

/** Why a folder is not taken in over the work of others. */
export interface Refusal {
  readonly slug: string;
  /** The revision it would go over. */
  readonly newest: number;
  /** Documents of the newest revision that are other in the folder, or not in it; it is not known who changed them. */
  readonly lost: readonly string[];
  /** Documents that folder and project both changed since the folder was taken from it. */
  readonly clashes: readonly DocumentClash[];
}

export interface ImportOrder {
  readonly files: readonly SourceFile[];
  readonly actor: string;
  readonly note: string;
  /** The revision the files were taken from, as their folder says. */
  readonly from?: TakenFrom | undefined;
  /** The files stand for the whole project, whatever has been saved in it. */
  readonly replace?: boolean;
}

/**
 * Imports the documents of a project folder as a new revision. What was saved in the project since the folder was taken from it stays: both are merged, by document and by line.
 * A folder that does not say where it was taken from goes over a project of its name only where nothing is lost by it. Files equal to the newest revision change nothing.
 */
export async function importFiles(db: Database, order: ImportOrder): Promise<Imported> {
  const { name, about, faults } = await checkApart(order.files);
  if (faults.length > 0) return { faults };
  for (;;) {
    const known = await findKnown(db, name, order.from);
    const done = known ? await importOver(db, known, order) : await importNew(db, name, about, order);
    // Somebody was quicker: the work is done again over what they saved.
    if (done) return done;
  }
}

interface Known {
  readonly id: number;
  readonly identity: string;
  readonly slug: string;
  readonly newest: { readonly id: number; readonly number: number };
}

/** The project that a folder belongs to: the one it was taken from, or else, if it does not say, that of its name. */
async function findKnown(db: Pick<Database, 'select'>, name: string, from: TakenFrom | undefined): Promise<Known | undefined> {
  const { projects, revisions } = tables;
  const [found] = await db
    .select({ id: projects.id, identity: projects.identity, slug: projects.slug, newest: { id: revisions.id, number: revisions.number } })
    .from(projects)
    .innerJoin(revisions, eq(revisions.projectId, projects.id))
    .where(from ? eq(projects.identity, from.project) : eq(projects.name, name))
    .orderBy(desc(revisions.number))
    .limit(1);
  return found;
}

/** Number of the advisory lock under which projects are made: two imports of one new folder make one project. */
const makingProject = 7_102;

async function importNew(db: Database, name: string, about: string, { files, actor, note, from }: ImportOrder): Promise<Imported | undefined> {
  return db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(${makingProject})`);
    if (await findKnown(tx, name, from)) return undefined;
    const slug = await freeSlug(tx, name);
    const [project] = await tx
      .insert(tables.projects)
      .values({ slug, name, about, createdBy: actor, ...(from ? { identity: from.project } : {}) })
      .returning();
    if (!project) throw new Error('the project was not written');
    await writeRevision(tx, project.id, 1, files, actor, note);
    return { slug, identity: project.identity, revision: 1, isNew: true, isWhole: true };
  });
}

async function importOver(db: Database, project: Known, { files, actor, note, from, replace }: ImportOrder): Promise<Imported | undefined> {
  const { id, slug, identity, newest } = project;
  const theirs = await readFiles(db, newest.id);
  const merged = replace ? { files, clashes: [], lost: [] } : await mergedWith(db, project, theirs, files, from);
  if (merged.clashes.length > 0 || merged.lost.length > 0)
    return { refused: { slug, newest: newest.number, lost: merged.lost, clashes: merged.clashes } };
  const isWhole = isEqual(merged.files, files);
  if (isEqual(merged.files, theirs)) return { slug, identity, revision: newest.number, isNew: false, isWhole };
  const checked = await checkApart(merged.files);
  if (checked.faults.length > 0) return { faults: checked.faults };
  return db.transaction(async (tx) => {
    if ((await lockNewest(tx, id)) !== newest.number) return undefined;
    const revision = newest.number + 1;
    await writeRevision(tx, id, revision, merged.files, actor, note);
    await tx.update(tables.projects).set({ name: checked.name, about: checked.about }).where(eq(tables.projects.id, id));
    return { slug, identity, revision, isNew: true, isWhole };
  });
}

/** What folder and project come to together, and what stands in the way. */
async function mergedWith(db: Database, project: Known, theirs: readonly SourceFile[], mine: readonly SourceFile[], from: TakenFrom | undefined) {
  const base = from && (await findRevision(db, project.id, from.revision));
  if (base) return { ...mergeDocuments(await readFiles(db, base), mine, theirs), lost: [] };
  const own = new Map(mine.map(({ path, text }) => [path, text]));
  return { files: mine, clashes: [], lost: theirs.filter(({ path, text }) => own.get(path) !== text).map(({ path }) => path) };
}

function isEqual(a: readonly SourceFile[], b: readonly SourceFile[]): boolean {
  const texts = new Map(a.map(({ path, text }) => [path, text]));
  return texts.size === b.length && b.every(({ path, text }) => texts.get(path) === text);
}

/** What became of a save: a new revision, the faults that keep it out, or the newer revision that stands in its way. */
export type Saved = { readonly revision: number } | { readonly faults: readonly Fault[] } | { readonly conflict: number };

/**
 * Saves some documents of a project over the revision they were edited from; the others stay as they are in that revision.
 * Whether it is still the newest is decided under the lock of the project.
 */
export async function saveFiles(
  db: Database,
  project: Pick<ProjectHead, 'id'>,
  base: number,
  changed: readonly SourceFile[],
  actor: string,
  note: string,
): Promise<Saved> {
  const from = await findRevision(db, project.id, base);
  if (from === undefined) return db.transaction(async (tx) => ({ conflict: await lockNewest(tx, project.id) }));
  const texts = new Map((await readFiles(db, from)).map((file) => [file.path, file.text]));
  for (const { path, text } of changed) {
    if (text === '') texts.delete(path);
    else texts.set(path, text.replace(/\r\n/g, '\n'));
  }
  const files = [...texts].map(([path, text]) => ({ path, text }));
  const { faults } = await checkApart(files);
  if (faults.length > 0) return { faults };
  return db.transaction(async (tx) => {
    const newest = await lockNewest(tx, project.id);
    if (newest !== base) return { conflict: newest };
    await writeRevision(tx, project.id, base + 1, files, actor, note);
    return { revision: base + 1 };
  });
}

/** Longest word for a project in addresses. */
const longestSlug = 60;

/** A word for a project in addresses that no other has: its name as far as that is written in Latin letters, and a number where that is taken. */
async function freeSlug(db: Pick<Database, 'select'>, name: string): Promise<string> {
  const word = fileNameOf(name).slice(0, longestSlug).replace(/-$/, '') || 'project';
  for (let number = 1; ; number += 1) {
    const slug = number === 1 ? word : `${word}-${number}`;
    const [taken] = await db.select({ id: tables.projects.id }).from(tables.projects).where(eq(tables.projects.slug, slug));
    if (!taken) return slug;
  }
}
