import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { database } from '@/server/database';
import { readLedger } from '@/server/evidence';
import { findProject } from '@/server/projects';
import { ledgerHead } from '@/ui/hooks/ledgerHead';
import { LedgerView } from '@/ui/ledger/LedgerView';

export const metadata: Metadata = { title: 'Ledger' };

export default async function LedgerPage({ params }: { readonly params: Promise<{ project: string }> }) {
  const head = await findProject(database(), (await params).project);
  if (!head) notFound();
  return <LedgerView slug={head.slug} revision={head.revision} head={ledgerHead(await readLedger(database(), head))} />;
}
