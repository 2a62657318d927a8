'use client';
import { useState } from 'react';
import type { CampaignProgress } from '@/core/evidence';
import { plural, timeWords } from '@/core/wording';
import { stopRuns } from './useProgress';

/** Long work, with counts, rate, time left and a way to stop it; at its end, what it found. Silent about work that had ended before the page was opened. */
export function ProgressLine({ progress }: { readonly progress: CampaignProgress | undefined }) {
  const [dismissed, setDismissed] = useState(progress && !isActive(progress) ? progress.id : undefined);
  if (!progress) return null;
  if (isActive(progress)) return <Active progress={progress} />;
  if (progress.id === dismissed) return null;
  return <Ended progress={progress} close={() => setDismissed(progress.id)} />;
}

function isActive({ state }: CampaignProgress): boolean {
  return state === 'queued' || state === 'running';
}

function Active({ progress }: { readonly progress: CampaignProgress }) {
  const { done, total, elapsedMs, running, failed } = progress;
  const rate = done / Math.max(0.001, elapsedMs / 1000);
  const left = done > 0 ? `, about ${timeWords(Math.ceil((total - done) / rate))} left` : '';
  return (
    <div role="status" className="flex items-center gap-4 border-rule border-b bg-tint px-6 py-1.5">
      <div className="h-1.5 w-40 shrink-0 bg-rule">
        <div className="h-full bg-ink" style={{ width: `${(100 * done) / Math.max(1, total)}%` }} />
      </div>
      <span className="figure whitespace-nowrap">
        {done} of {plural(total, 'run')}
        {done > 0 ? `, ${rate.toFixed(1)} runs/s` : ''}
        {left}
        {failed > 0 ? `, ${failed} with a break` : ''}
      </span>
      <span className="truncate text-soft">{progress.state === 'queued' ? 'waiting for a worker' : running.join(' · ')}</span>
      <button type="button" className="act ml-auto" onClick={() => void stopRuns(progress.id)}>
        Stop
      </button>
    </div>
  );
}

function Ended({ progress, close }: { readonly progress: CampaignProgress; readonly close: () => void }) {
  const { state, done, failed, elapsedMs } = progress;
  return (
    <div role="status" className="flex items-center gap-4 border-rule border-b bg-tint px-6 py-1.5">
      <span>
        {state === 'stopped' ? 'Stopped' : 'Done'}: {plural(done, 'run')} in {timeWords(Number((elapsedMs / 1000).toFixed(1)))},{' '}
        {failed > 0 ? <b className="text-fail">{failed} with a break</b> : 'none with a break'}.
      </span>
      <button type="button" className="act ml-auto" onClick={close}>
        Close
      </button>
    </div>
  );
}
