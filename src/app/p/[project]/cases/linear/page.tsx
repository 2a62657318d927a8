import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { database } from '@/server/database';
import { findProject, readFiles } from '@/server/projects';
import { LinearView } from '@/ui/linear/LinearView';

export const metadata: Metadata = { title: 'Linear view' };

export default async function LinearPage({ params }: { readonly params: Promise<{ project: string }> }) {
  const head = await findProject(database(), (await params).project);
  if (!head) notFound();
  return <LinearView newest={{ revision: head.revision, files: await readFiles(database(), head.revisionId) }} />;
}
