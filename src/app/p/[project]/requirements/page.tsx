import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { requirementsOf } from '@/core/requirements';
import { database } from '@/server/database';
import { readLedger } from '@/server/evidence';
import { findProject, openRevision, readFiles } from '@/server/projects';
import { RequirementsView } from '@/ui/requirements/RequirementsView';

export const metadata: Metadata = { title: 'Requirements' };

export default async function RequirementsPage({ params }: { readonly params: Promise<{ project: string }> }) {
  const head = await findProject(database(), (await params).project);
  if (!head) notFound();
  const [ledger, files, checked] = await Promise.all([
    readLedger(database(), head),
    readFiles(database(), head.revisionId),
    openRevision(database(), head.revisionId),
  ]);
  const first = checked.project.requirements.length <= mostAtFirst ? requirementsOf(checked) : undefined;
  return <RequirementsView slug={head.slug} revision={head.revision} files={files} rows={ledger.rows} first={first} />;
}

/** Thousands of requirements are read by the browser alone: sent twice they would come later. */
const mostAtFirst = 500;
