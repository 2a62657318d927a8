import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { readCampaignRun } from '@/server/campaigns';
import { database } from '@/server/database';
import { findProject } from '@/server/projects';
import { CampaignRunView } from '@/ui/campaigns/results/CampaignRunView';

export const metadata: Metadata = { title: 'Run' };

interface RunPageProps {
  readonly params: Promise<{ project: string; campaign: string; number: string }>;
}

export default async function CampaignRunPage({ params }: RunPageProps) {
  const { project, campaign, number } = await params;
  const head = await findProject(database(), project);
  const isNumber = (text: string): boolean => /^\d{1,9}$/.test(text);
  const found =
    head && isNumber(campaign) && isNumber(number) ? await readCampaignRun(database(), head, Number(campaign), Number(number)) : undefined;
  if (!head || !found) notFound();
  const { order: _, ...kept } = found;
  return <CampaignRunView slug={head.slug} campaign={Number(campaign)} number={Number(number)} kept={kept} />;
}
