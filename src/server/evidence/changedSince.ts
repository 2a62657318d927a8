import { and, eq, inArray, isNull } from 'drizzle-orm';
import { alias } from 'drizzle-orm/pg-core';
import { type ChangedSince, type CheckedProject, nameKey, restsOn } from '@/core';
import { type Database, tables } from '@/server/database';

/** A run whose result no longer stands, or whose criterion has been changed since. */
export interface AgedRun {
  readonly id: number;
  readonly caseName: string;
  readonly campaignId: number;
  /** It still fits the model and the case; then it is the criterion or the prose that is another. */
  readonly fits: boolean;
}

/** What has changed since each of the runs was made, seen from the revision of today. */
export async function changedSince(
  db: Database,
  project: CheckedProject,
  revisionId: number,
  runs: readonly AgedRun[],
): Promise<ReadonlyMap<number, ChangedSince>> {
  const others = await otherDocuments(
    db,
    revisionId,
    runs.filter((run) => !run.fits).map((run) => run.campaignId),
  );
  return new Map(
    runs.map(({ id, caseName, campaignId, fits }) => {
      const test = project.cases.find((one) => nameKey(one.experiment.case) === nameKey(caseName));
      const documents = fits || !test ? [] : (others.get(campaignId) ?? []).filter(restsOn(project.project, test));
      return [id, { documents, reading: fits, product: !fits && documents.length === 0 }];
    }),
  );
}

/** All that changed since any of some runs. */
export function together(changes: readonly ChangedSince[]): ChangedSince {
  return {
    documents: [...new Set(changes.flatMap((one) => one.documents))].sort(),
    reading: changes.some((one) => one.reading),
    product: changes.some((one) => one.product),
  };
}

/** For each campaign, the documents of its revision that hold another text today, or are gone. A new one counts only through one that names it. */
async function otherDocuments(db: Database, revisionId: number, campaignIds: readonly number[]): Promise<ReadonlyMap<number, readonly string[]>> {
  if (campaignIds.length === 0) return new Map();
  const { campaigns, revisionFiles } = tables;
  const today = alias(revisionFiles, 'today');
  const changed = await db
    .select({ id: campaigns.id, path: revisionFiles.path })
    .from(campaigns)
    .innerJoin(revisionFiles, eq(revisionFiles.revisionId, campaigns.revisionId))
    .leftJoin(today, and(eq(today.revisionId, revisionId), eq(today.path, revisionFiles.path), eq(today.hash, revisionFiles.hash)))
    .where(and(inArray(campaigns.id, [...new Set(campaignIds)]), isNull(today.path)));
  const paths = new Map<number, string[]>();
  for (const { id, path } of changed) paths.set(id, [...(paths.get(id) ?? []), path]);
  return paths;
}
