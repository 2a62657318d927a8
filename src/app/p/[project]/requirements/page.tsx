import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { requirementsOf } from '@/core/requirements';
import { database } from '@/server/database';
import { readLedger } from '@/server/evidence';
import { findProject, openRevision, readFiles } from '@/server/projects';
import { ledgerHead } from '@/ui/hooks/ledgerHead';
import { RequirementsFetched } from '@/ui/requirements/RequirementsFetched';
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
  const common = { slug: head.slug, revision: head.revision, head: ledgerHead(ledger) };
  return checked.project.requirements.length <= mostAtFirst ? (
    <RequirementsView {...common} files={files} first={requirementsOf(checked)} />
  ) : (
    <RequirementsFetched {...common} />
  );
}

/** Thousands of requirements are fetched and read by the browser: the page is there before them. */
const mostAtFirst = 300;
