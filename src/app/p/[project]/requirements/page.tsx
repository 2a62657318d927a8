import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { database } from '@/server/database';
import { readLedger } from '@/server/evidence';
import { findProject, readFiles } from '@/server/projects';
import { RequirementsView } from '@/ui/requirements/RequirementsView';

export const metadata: Metadata = { title: 'Requirements' };

export default async function RequirementsPage({ params }: { readonly params: Promise<{ project: string }> }) {
  const head = await findProject(database(), (await params).project);
  if (!head) notFound();
  const [ledger, files] = await Promise.all([readLedger(database(), head), readFiles(database(), head.revisionId)]);
  return <RequirementsView slug={head.slug} revision={head.revision} files={files} rows={ledger.rows} />;
}
