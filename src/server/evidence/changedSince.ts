import { and, eq, inArray, isNull, type SQL } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { type ChangedSince, causeOfAge } from '@/core/evidence';
import { nameKey } from '@/core/language';
import { type CheckedProject, restsOn } from '@/core/project';
import { type Database, tables } from '@/server/database';

/** A run whose result no longer stands, or whose criterion has been changed since. */
export interface AgedRun {
  readonly id: number;
  readonly caseName: string;
  readonly campaignId: number;
  /** It still fits the model and the case; then it is the criterion or the requirement text that has changed. */
  readonly fits: boolean;
}

/** What has changed since each of the runs was made, seen from the revision of today. */
export async function changedSince(
  db: Database,
  project: CheckedProject,
  revisionId: number,
  runs: readonly AgedRun[],
): Promise<ReadonlyMap<number, ChangedSince>> {
  const changed = await changedDocuments(
    db,
    revisionId,
    runs.filter((run) => !run.fits).map((run) => run.campaignId),
  );
  return new Map(
    runs.map(({ id, caseName, campaignId, fits }) => {
      const test = project.cases.find((one) => nameKey(one.experiment.case) === nameKey(caseName));
      const rests = test && restsOn(project.project, test);
      const documents = (changed.get(campaignId) ?? []).flatMap(({ path, isNew }) => (rests?.(path, isNew) ? [path] : []));
      return [id, causeOfAge(fits, documents)];
    }),
  );
}

interface Changed {
  readonly path: string;
  /** There was no document at this path. */
  readonly isNew: boolean;
}

/** For each campaign, the paths at which its revision and today's do not hold the same text. */
async function changedDocuments(db: Database, revisionId: number, campaignIds: readonly number[]): Promise<ReadonlyMap<number, readonly Changed[]>> {
  if (campaignIds.length === 0) return new Map();
  const { campaigns, revisionFiles: files } = tables;
  const other = alias(files, 'other');
  const asked = inArray(campaigns.id, [...new Set(campaignIds)]);
  const missing = (hasFiles: SQL | undefined, hasOther: SQL | undefined) =>
    db
      .select({ id: campaigns.id, path: files.path })
      .from(campaigns)
      .innerJoin(files, hasFiles)
      .leftJoin(other, and(hasOther, eq(other.path, files.path)))
      .where(and(asked, isNull(other.path)));
  const gone = await missing(eq(files.revisionId, campaigns.revisionId), and(eq(other.revisionId, revisionId), eq(other.hash, files.hash)));
  const added = await missing(eq(files.revisionId, revisionId), eq(other.revisionId, campaigns.revisionId));
  const found = new Map<number, Changed[]>();
  for (const [list, isNew] of [[gone, false] as const, [added, true] as const])
    for (const { id, path } of list) found.set(id, [...(found.get(id) ?? []), { path, isNew }]);
  return found;
}
