import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { coresAtWork, readCampaigns } from '@/server/campaigns';
import { database } from '@/server/database';
import { readPaces } from '@/server/evidence';
import { findProject, readFiles } from '@/server/projects';
import { CampaignsView } from '@/ui/campaigns/composer/CampaignsView';

export const metadata: Metadata = { title: 'Campaigns' };

export default async function CampaignsPage({ params }: { readonly params: Promise<{ project: string }> }) {
  const db = database();
  const head = await findProject(db, (await params).project);
  if (!head) notFound();
  const [files, lines, paces] = await Promise.all([readFiles(db, head.revisionId), readCampaigns(db, head), readPaces(db, head.id)]);
  return <CampaignsView slug={head.slug} newest={{ revision: head.revision, files }} lines={lines} paces={paces} cores={coresAtWork()} />;
}
