import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { database } from '@/server/database';
import { readCases } from '@/server/evidence';
import { findProject } from '@/server/projects';
import { CasesView } from '@/ui/cases/CasesView';

export const metadata: Metadata = { title: 'Cases' };

export default async function CasesPage({ params }: { readonly params: Promise<{ project: string }> }) {
  const head = await findProject(database(), (await params).project);
  if (!head) notFound();
  return <CasesView slug={head.slug} cases={await readCases(database(), head)} />;
}
