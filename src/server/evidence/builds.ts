import { readdir, readFile } from 'node:fs/promises';
import path from 'node:path';
import { and, desc, eq, inArray } from 'drizzle-orm';
import type { BuildRecord } from '@/core/build';
import { decode, encode } from '@/core/exchange';
import { type BuildView, controllerFace, plannedBuild, restsOnLoop } from '@/core/project';
import { type Build, makeBuild } from '@/server/builds';
import { type Database, tables } from '@/server/database';
import { openRevision, type ProjectHead } from '@/server/projects';

/** Keeps the record of a build, unless it is known. */
export async function keepBuild(
  db: Database,
  where: { readonly projectId: number; readonly revisionId: number; readonly loop: string },
  { record }: Build,
  actor: string,
): Promise<void> {
  await db
    .insert(tables.builds)
    .values({ ...where, fingerprint: record.fingerprint, hash: record.hash, record: encode(record), createdBy: actor })
    .onConflictDoNothing();
}

/**
 * Compiles the controllers of a loop and keeps the record.
 * @returns a sentence where that cannot be done
 */
export async function buildLoop(db: Database, head: ProjectHead, loop: string, actor: string): Promise<string | undefined> {
  const planned = plannedBuild(await openRevision(db, head.revisionId), loop);
  if ('because' in planned) return planned.because;
  try {
    await keepBuild(db, { projectId: head.id, revisionId: head.revisionId, loop }, await makeBuild(planned), actor);
    return undefined;
  } catch (problem) {
    return problem instanceof Error ? problem.message : String(problem);
  }
}

/** The files of the build of a loop as it is today; a sentence where there is none. */
export async function buildFiles(db: Database, head: ProjectHead, loop: string): Promise<Record<string, Uint8Array> | string> {
  const planned = plannedBuild(await openRevision(db, head.revisionId), loop);
  if ('because' in planned) return planned.because;
  const folder = path.dirname((await makeBuild(planned)).library);
  const names = await readdir(folder);
  return Object.fromEntries(await Promise.all(names.map(async (name) => [name, new Uint8Array(await readFile(path.join(folder, name)))] as const)));
}

/** Of each loop of a project the newest build, and how it stands to the model of today. */
export async function readBuilds(db: Database, head: ProjectHead): Promise<BuildView[]> {
  const project = await openRevision(db, head.revisionId);
  const rows = await db.select().from(tables.builds).where(eq(tables.builds.projectId, head.id)).orderBy(desc(tables.builds.id));
  const views: BuildView[] = [];
  for (const [loop, { raw }] of project.project.loops) {
    const planned = plannedBuild(project, loop);
    // The same components, used in the same way in another loop, are the same build.
    const row = rows.find((one) => !('because' in planned) && one.fingerprint === planned.fingerprint) ?? rows.find((one) => one.loop === loop);
    const isCurrent = row !== undefined && !('because' in planned) && row.fingerprint === planned.fingerprint;
    views.push({
      loop: raw.loop,
      key: loop,
      ...('because' in planned ? { because: planned.because } : { face: controllerFace(planned, project.loops.get(loop)) }),
      ...(row
        ? {
            made: {
              record: decode(row.record) as BuildRecord,
              by: row.createdBy,
              isCurrent,
              changed: isCurrent ? [] : await changedFor(db, row.revisionId, head.revisionId, restsOnLoop(project.project, loop)),
            },
          }
        : {}),
    });
  }
  return views;
}

/** Documents a loop rests on that are not the same in two revisions. */
async function changedFor(db: Database, before: number, now: number, rests: (path: string) => boolean): Promise<string[]> {
  const { revisionFiles } = tables;
  const files = await db
    .select()
    .from(revisionFiles)
    .where(and(inArray(revisionFiles.revisionId, [before, now])));
  const of = (revision: number): Map<string, string> =>
    new Map(files.filter((one) => one.revisionId === revision).map(({ path, hash }) => [path, hash]));
  const [then, today] = [of(before), of(now)];
  return [...new Set([...then.keys(), ...today.keys()])].filter((path) => then.get(path) !== today.get(path) && rests(path)).sort();
}
