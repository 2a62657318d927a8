import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { database } from '@/server/database';
import { findProject, readFiles } from '@/server/projects';
import { CoverageView } from '@/ui/coverage/CoverageView';

export const metadata: Metadata = { title: 'Coverage' };

export default async function CoveragePage({ params }: { readonly params: Promise<{ project: string }> }) {
  const head = await findProject(database(), (await params).project);
  if (!head) notFound();
  return <CoverageView slug={head.slug} newest={{ revision: head.revision, files: await readFiles(database(), head.revisionId) }} />;
}
