import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { database } from '@/server/database';
import { findProject, readFiles } from '@/server/projects';
import { FamilyView } from '@/ui/cases/family/FamilyView';

export const metadata: Metadata = { title: 'Derive cases' };

export default async function DerivePage({ params }: { readonly params: Promise<{ project: string }> }) {
  const head = await findProject(database(), (await params).project);
  if (!head) notFound();
  return <FamilyView slug={head.slug} newest={{ revision: head.revision, files: await readFiles(database(), head.revisionId) }} />;
}
