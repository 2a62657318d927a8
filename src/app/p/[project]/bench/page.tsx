import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { benchViews, casesByLoop, pairingOffers, pairingViews, proposedBenches } from '@/core/project';
import { database } from '@/server/database';
import { readBenchRuns, readBuilds } from '@/server/evidence';
import { findProject, openRevision } from '@/server/projects';
import { BenchPlace } from '@/ui/bench/BenchPlace';

export const metadata: Metadata = { title: 'Bench' };

export default async function BenchPage({ params }: { readonly params: Promise<{ project: string }> }) {
  const head = await findProject(database(), (await params).project);
  if (!head) notFound();
  const project = await openRevision(database(), head.revisionId);
  return (
    <BenchPlace
      slug={head.slug}
      revision={head.revision}
      benches={benchViews(project)}
      proposed={proposedBenches(project)}
      builds={await readBuilds(database(), head)}
      pairings={pairingViews(project)}
      offers={pairingOffers(project)}
      cases={casesByLoop(project)}
      runs={await readBenchRuns(database(), head.id)}
    />
  );
}
