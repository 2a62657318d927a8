import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { database } from '@/server/database';
import { findProject, readFiles } from '@/server/projects';
import { ProbeView } from '@/ui/probe/ProbeView';

export const metadata: Metadata = { title: 'Push' };

export default async function ProbePage({ params }: { readonly params: Promise<{ project: string }> }) {
  const head = await findProject(database(), (await params).project);
  if (!head) notFound();
  return <ProbeView newest={{ revision: head.revision, files: await readFiles(database(), head.revisionId) }} />;
}
