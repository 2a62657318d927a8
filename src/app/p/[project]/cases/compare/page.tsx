import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { database } from '@/server/database';
import { findProject, readFiles } from '@/server/projects';
import { CompareView } from '@/ui/compare/CompareView';

export const metadata: Metadata = { title: 'Compare' };

export default async function ComparePage({ params }: { readonly params: Promise<{ project: string }> }) {
  const head = await findProject(database(), (await params).project);
  if (!head) notFound();
  return <CompareView slug={head.slug} newest={{ revision: head.revision, files: await readFiles(database(), head.revisionId) }} />;
}
