import { inArray } from 'drizzle-orm';
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
  const made = await db
    .select({ id: campaigns.id, revisionId: campaigns.revisionId })
    .from(campaigns)
    .where(inArray(campaigns.id, [...new Set(campaignIds)]));
  const files = await db
    .select()
    .from(revisionFiles)
    .where(inArray(revisionFiles.revisionId, [...new Set([revisionId, ...made.map((one) => one.revisionId)])]));
  const treeOf = (id: number): Map<string, string> => new Map(files.filter((file) => file.revisionId === id).map(({ path, hash }) => [path, hash]));
  const today = treeOf(revisionId);
  return new Map(
    made.map((one) => {
      const changed = [...treeOf(one.revisionId)].filter(([path, hash]) => today.get(path) !== hash);
      return [one.id, changed.map(([path]) => path)];
    }),
  );
}
