'use client';
import Link from 'next/link';
import { useState } from 'react';
import type { CampaignProgress } from '@/core/evidence';
import { plural, timeWords } from '@/core/wording';
import { paceWords } from './paceWords';
import { stopRuns } from './useProgress';

/** Long work, with counts, rate, time left and a way to stop it; at its end, what it found. Silent about work that had ended before the page was opened. */
export function ProgressLine({ slug, progress }: { readonly slug: string; readonly progress: CampaignProgress | undefined }) {
  const [dismissed, setDismissed] = useState(progress && !isActive(progress) ? progress.id : undefined);
  if (!progress) return null;
  if (isActive(progress)) return <Active slug={slug} progress={progress} />;
  if (progress.id === dismissed) return null;
  return <Ended slug={slug} progress={progress} close={() => setDismissed(progress.id)} />;
}

function isActive({ state }: CampaignProgress): boolean {
  return state === 'queued' || state === 'running' || state === 'paused';
}

function Active({ slug, progress }: { readonly slug: string; readonly progress: CampaignProgress }) {
  const { done, total, failed } = progress;
  return (
    <div role="status" className="flex items-center gap-4 border-rule border-b bg-tint px-6 py-1.5">
      <div className="h-1.5 w-40 shrink-0 bg-rule">
        <div className="h-full bg-ink" style={{ width: `${(100 * done) / Math.max(1, total)}%` }} />
      </div>
      <span className="figure whitespace-nowrap">
        {done} of {plural(total, 'run')}
        {paceWords(progress)}
        {failed > 0 ? `, ${failed} with a break` : ''}
      </span>
      <span className="truncate text-soft">
        <What slug={slug} progress={progress} />
      </span>
      <button type="button" className="act ml-auto" onClick={() => void stopRuns(progress.id)}>
        Stop
      </button>
    </div>
  );
}

/** What is being run, or why nothing is. */
function What({ slug, progress }: { readonly slug: string; readonly progress: CampaignProgress }) {
  const { id, document } = progress;
  const now = nowWords(progress);
  if (document === undefined) return now;
  return (
    <>
      <Link className="underline decoration-rule" href={`/p/${slug}/campaigns/${id}`}>
        {document}
      </Link>
      {now && ` · ${now}`}
    </>
  );
}

function nowWords({ state, running, awaitsBench }: CampaignProgress): string {
  if (state === 'paused') return 'held';
  if (awaitsBench) return 'waiting for the bench';
  return state === 'queued' ? 'waiting for a worker' : running.join(' · ');
}

function Ended({ slug, progress, close }: { readonly slug: string; readonly progress: CampaignProgress; readonly close: () => void }) {
  const { state, done, failed, elapsedMs } = progress;
  return (
    <div role="status" className="flex items-center gap-4 border-rule border-b bg-tint px-6 py-1.5">
      <span>
        {state === 'stopped' ? 'Stopped' : 'Done'}: {plural(done, 'run')} in {timeWords(Number((elapsedMs / 1000).toFixed(1)))},{' '}
        {failed > 0 ? <b className="text-fail">{failed} with a break</b> : 'none with a break'}.
      </span>
      {progress.document !== undefined && (
        <Link className="underline decoration-rule" href={`/p/${slug}/campaigns/${progress.id}`}>
          What they found
        </Link>
      )}
      <button type="button" className="act ml-auto" onClick={close}>
        Close
      </button>
    </div>
  );
}
