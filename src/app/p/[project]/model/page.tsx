import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { database } from '@/server/database';
import { findProject, readFiles } from '@/server/projects';
import { ModelView } from '@/ui/model/ModelView';
import { firstLook } from './firstLook';

export const metadata: Metadata = { title: 'Model' };

interface ModelPageProps {
  readonly params: Promise<{ project: string }>;
  readonly searchParams: Promise<{ at?: string | string[] }>;
}

export default async function ModelPage({ params, searchParams }: ModelPageProps) {
  const head = await findProject(database(), (await params).project);
  if (!head) notFound();
  const files = await readFiles(database(), head.revisionId);
  const { at } = await searchParams;
  const first = await firstLook(head.revisionId, files, typeof at === 'string' ? at : '');
  return <ModelView slug={head.slug} revision={head.revision} files={files} first={first} />;
}
