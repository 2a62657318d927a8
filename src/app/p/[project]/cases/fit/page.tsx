import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { database } from '@/server/database';
import { findProject, readFiles } from '@/server/projects';
import { FitView } from '@/ui/fit/FitView';

export const metadata: Metadata = { title: 'Fit the plant' };

export default async function FitPage({ params }: { readonly params: Promise<{ project: string }> }) {
  const head = await findProject(database(), (await params).project);
  if (!head) notFound();
  return <FitView slug={head.slug} newest={{ revision: head.revision, files: await readFiles(database(), head.revisionId) }} />;
}
