'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import type { CampaignProgress } from '@/core/evidence';
import { decode } from '@/core/exchange';
import type { Stage } from '@/core/shapes';
import { asJson } from '../format/asJson';
import { waitBefore } from '../format/waits';

export interface Followed {
  readonly progress: CampaignProgress | undefined;
  /** Nothing is heard of the server at the moment. */
  readonly isLost: boolean;
}

/**
 * Follows the newest campaign, or one that is named; pages are made anew whenever runs of cases were added, and when a campaign document begins or ends. Survives a reload, because the server holds the state, and comes back by itself
 * whatever the server answered meanwhile.
 */
export function useProgress(slug: string, initial: CampaignProgress | undefined, campaign?: number): Followed {
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
      source = new EventSource(`/api/projects/${slug}/progress${campaign === undefined ? '' : `?campaign=${campaign}`}`);
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
  }, [slug, router, campaign]);
  return { progress, isLost };
}

/** What a page shows of a campaign changes with it. The runs of a document change no page but its own, which asks for them itself. */
function markOf({ id, done, state, document }: CampaignProgress): string {
  return document === undefined ? `${id}/${done}/${state}` : `${id}/${state}`;
}

/** Starts a campaign over some cases, or all. @param stage this one alone; those that the project demands unless said. @returns a sentence when it could not start */
export async function startRuns(slug: string, cases?: readonly string[], stage?: Stage): Promise<string | undefined> {
  const started = await start(slug, { ...(cases ? { cases } : {}), ...(stage ? { stage } : {}) });
  return typeof started === 'string' ? started : undefined;
}

/** Starts the runs of a campaign document. @returns the campaign's number, or a sentence when it could not start */
export function startDocument(slug: string, document: string): Promise<number | string> {
  return start(slug, { document });
}

async function start(slug: string, what: object): Promise<number | string> {
  const response = await fetch(`/api/projects/${slug}/campaigns`, asJson(what)).catch(() => undefined);
  if (!response) return 'The server does not answer. Is it still running?';
  const body = decode(await response.text()) as { id: number } | { error: string };
  return 'error' in body ? body.error : body.id;
}

/** Holds a campaign, lets it go on, or puts it before others. */
export async function changeCampaign(campaign: number, change: { readonly state?: 'paused' | 'running'; readonly priority?: number }): Promise<void> {
  await fetch(`/api/campaigns/${campaign}`, asJson(change)).catch(() => undefined);
}

export async function stopRuns(campaign: number): Promise<void> {
  await fetch(`/api/campaigns/${campaign}`, { method: 'DELETE' }).catch(() => undefined);
}
