import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { plural } from '@/core/wording';
import { readCampaigns } from '@/server/campaigns';
import { database } from '@/server/database';
import { findProject, readFiles } from '@/server/projects';
import { CoverageView } from '@/ui/coverage/CoverageView';

export const metadata: Metadata = { title: 'Coverage' };

export default async function CoveragePage({ params }: { readonly params: Promise<{ project: string }> }) {
  const head = await findProject(database(), (await params).project);
  if (!head) notFound();
  const [files, lines] = await Promise.all([readFiles(database(), head.revisionId), readCampaigns(database(), head)]);
  const campaigns = lines.flatMap(({ name, made }) =>
    made
      .filter((one) => one.done > 0)
      .map(({ id, revision, done, isCurrent }) => ({
        id,
        words: `${name}, ${plural(done, 'run')}, revision ${revision}${isCurrent ? '' : ', out of date'}`,
      })),
  );
  return <CoverageView slug={head.slug} newest={{ revision: head.revision, files }} campaigns={campaigns} />;
}
