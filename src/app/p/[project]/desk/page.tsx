import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { database } from '@/server/database';
import { findProject, readFiles } from '@/server/projects';
import { DeskView } from '@/ui/desk/DeskView';

export const metadata: Metadata = { title: 'Desk' };

export default async function DeskPage({ params }: { readonly params: Promise<{ project: string }> }) {
  const head = await findProject(database(), (await params).project);
  if (!head) notFound();
  return <DeskView slug={head.slug} newest={{ revision: head.revision, files: await readFiles(database(), head.revisionId) }} />;
}
