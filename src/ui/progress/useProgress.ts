'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import type { CampaignProgress } from '@/core';
import { decode, encode } from '@/core';

/** Follows the newest campaign; pages are made anew whenever runs were added. Survives a reload, because the server holds the state. */
export function useProgress(slug: string, initial: CampaignProgress | undefined): CampaignProgress | undefined {
  const [progress, setProgress] = useState(initial);
  const router = useRouter();
  const seen = useRef(initial ? `${initial.id}/${initial.done}/${initial.state}` : '');
  useEffect(() => {
    const source = new EventSource(`/api/projects/${slug}/progress`);
    source.onmessage = ({ data }: MessageEvent<string>) => {
      const next = decode(data) as CampaignProgress | null;
      if (!next) return;
      setProgress(next);
      const mark = `${next.id}/${next.done}/${next.state}`;
      if (mark !== seen.current) {
        seen.current = mark;
        router.refresh();
      }
    };
    return () => source.close();
  }, [slug, router]);
  return progress;
}

/** Starts a campaign over some cases, or all. @returns a sentence when it could not start */
export async function startRuns(slug: string, cases?: readonly string[]): Promise<string | undefined> {
  const response = await fetch(`/api/projects/${slug}/campaigns`, { method: 'POST', body: encode(cases ? { cases } : {}) }).catch(() => undefined);
  if (!response) return 'The server does not answer. Is it still running?';
  return response.ok ? undefined : (decode(await response.text()) as { error: string }).error;
}

export async function stopRuns(campaign: number): Promise<void> {
  await fetch(`/api/campaigns/${campaign}`, { method: 'DELETE' }).catch(() => undefined);
}
