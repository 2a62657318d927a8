import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { database } from '@/server/database';
import { readBuilds } from '@/server/evidence';
import { findProject } from '@/server/projects';
import { BuildsView } from '@/ui/bench/BuildsView';

export const metadata: Metadata = { title: 'Bench' };

export default async function BenchPage({ params }: { readonly params: Promise<{ project: string }> }) {
  const head = await findProject(database(), (await params).project);
  if (!head) notFound();
  return <BuildsView slug={head.slug} builds={await readBuilds(database(), head)} />;
}
