import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { readCampaign, readCampaigns } from '@/server/campaigns';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { ResultsView } from '@/ui/campaigns/results/ResultsView';

export const metadata: Metadata = { title: 'Campaign' };

export default async function CampaignPage({ params }: { readonly params: Promise<{ project: string; campaign: string }> }) {
  const { project, campaign } = await params;
  const head = await findProject(database(), project);
  const view = head && /^\d{1,9}$/.test(campaign) ? await readCampaign(database(), head, Number(campaign)) : undefined;
  if (!head || !view) notFound();
  return <ResultsView slug={head.slug} revision={head.revision} view={view} lines={await readCampaigns(database(), head)} />;
}
