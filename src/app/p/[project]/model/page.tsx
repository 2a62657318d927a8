import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { database } from '@/server/database';
import { findProject, readFiles } from '@/server/projects';
import { ModelView } from '@/ui/model/ModelView';

export const metadata: Metadata = { title: 'Model' };

export default async function ModelPage({ params }: { readonly params: Promise<{ project: string }> }) {
  const head = await findProject(database(), (await params).project);
  if (!head) notFound();
  const files = await readFiles(database(), head.revisionId);
  return <ModelView slug={head.slug} revision={head.revision} files={files} />;
}
