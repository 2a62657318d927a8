'use client';
import type { CampaignProgress } from '@/core';
import { plural } from '../state/words';
import { stopRuns } from './useProgress';

/** Long work, with counts, rate, time left and a way to stop it. Silent when nothing runs. */
export function ProgressLine({ progress }: { readonly progress: CampaignProgress | undefined }) {
  if (!progress || (progress.state !== 'queued' && progress.state !== 'running')) return null;
  const { done, total, elapsedMs, running, failed } = progress;
  const rate = done / Math.max(0.001, elapsedMs / 1000);
  const left = done > 0 ? `, about ${Math.ceil((total - done) / rate)} s left` : '';
  return (
    <div role="status" className="flex items-center gap-4 border-b border-rule bg-tint px-6 py-1.5">
      <div className="h-1.5 w-40 bg-rule">
        <div className="h-full bg-ink" style={{ width: `${(100 * done) / Math.max(1, total)}%` }} />
      </div>
      <span className="figure">
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
