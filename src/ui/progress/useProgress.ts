'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import type { CampaignProgress } from '@/core/evidence';
import { decode } from '@/core/exchange';
import { asJson } from '../format/asJson';
import { waitBefore } from '../format/waits';

export interface Followed {
  readonly progress: CampaignProgress | undefined;
  /** Nothing is heard of the server at the moment. */
  readonly isLost: boolean;
}

/**
 * Follows the newest campaign; pages are made anew whenever runs were added. Survives a reload, because the server holds the state, and comes back by itself
 * whatever the server answered meanwhile.
 */
export function useProgress(slug: string, initial: CampaignProgress | undefined): Followed {
  const [progress, setProgress] = useState(initial);
  const [isLost, setLost] = useState(false);
  const router = useRouter();
  const seen = useRef(initial ? markOf(initial) : '');
  useEffect(() => {
    let source: EventSource | undefined;
    let waiting: ReturnType<typeof setTimeout> | undefined;
    let tries = 0;
    const hear = (next: CampaignProgress | null): void => {
      if (!next) return;
      setProgress(next);
      if (markOf(next) === seen.current) return;
      seen.current = markOf(next);
      router.refresh();
    };
    const connect = (): void => {
      source = new EventSource(`/api/projects/${slug}/progress`);
      source.onmessage = ({ data }: MessageEvent<string>) => {
        // What a page missed while it heard nothing may be more than a campaign.
        if (tries > 0) router.refresh();
        tries = 0;
        setLost(false);
        hear(decode(data) as CampaignProgress | null);
      };
      // A browser gives up for good at the first answer that is no stream; so each stream is ended and begun anew here.
      source.onerror = () => {
        source?.close();
        setLost(true);
        clearTimeout(waiting);
        waiting = setTimeout(connect, waitBefore(tries) * 1000);
        tries += 1;
      };
    };
    connect();
    return () => {
      clearTimeout(waiting);
      source?.close();
    };
  }, [slug, router]);
  return { progress, isLost };
}

function markOf({ id, done, state }: CampaignProgress): string {
  return `${id}/${done}/${state}`;
}

/** Starts a campaign over some cases, or all. @returns a sentence when it could not start */
export async function startRuns(slug: string, cases?: readonly string[]): Promise<string | undefined> {
  const response = await fetch(`/api/projects/${slug}/campaigns`, asJson(cases ? { cases } : {})).catch(() => undefined);
  if (!response) return 'The server does not answer. Is it still running?';
  return response.ok ? undefined : (decode(await response.text()) as { error: string }).error;
}

export async function stopRuns(campaign: number): Promise<void> {
  await fetch(`/api/campaigns/${campaign}`, { method: 'DELETE' }).catch(() => undefined);
}
