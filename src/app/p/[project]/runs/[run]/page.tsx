import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { database } from '@/server/database';
import { readRun } from '@/server/evidence';
import { RunView } from '@/ui/run/RunView';

export const metadata: Metadata = { title: 'Run' };

export default async function RunPage({ params }: { readonly params: Promise<{ project: string; run: string }> }) {
  const { project, run } = await params;
  const id = /^\d{1,9}$/.test(run) ? Number(run) : 0;
  const detail = await readRun(database(), id);
  if (!detail || detail.slug !== project) notFound();
  return <RunView run={detail} />;
}
