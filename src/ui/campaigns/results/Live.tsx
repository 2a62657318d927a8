'use client';
import { useRouter } from 'next/navigation';
import type { CampaignProgress } from '@/core/evidence';
import { anytimeInterval } from '@/core/statistics';
import { percent, plural } from '@/core/wording';
import { paceWords } from '../../progress/paceWords';
import { changeCampaign, stopRuns } from '../../progress/useProgress';

/** How far a campaign is, with what can be done about it; nothing once it is over. */
export function Live({ progress, priority }: { readonly progress: CampaignProgress; readonly priority: number }) {
  const router = useRouter();
  const { id, state, done, total, failed, cores = 0 } = progress;
  if (state === 'finished') return null;
  if (state === 'stopped')
    return (
      <p className="mt-1.5 text-soft">
        Stopped after {done} of {plural(total, 'run')}.
      </p>
    );
  return (
    <div role="status" className="mt-2 border border-rule bg-tint px-4 py-2.5">
      <div className="flex items-center gap-4">
        <div className="h-1.5 w-48 shrink-0 bg-rule">
          <div className="h-full bg-ink" style={{ width: `${(100 * done) / Math.max(1, total)}%` }} />
        </div>
        <span className="figure">
          {done} of {plural(total, 'run')}
          {state === 'running' && paceWords(progress)}
        </span>
        <span className="text-[13px] text-soft">
          {state === 'queued' ? 'waiting for a worker' : state === 'paused' ? 'held' : `${plural(cores, 'core')} at work`}
        </span>
        <span className="ml-auto flex gap-2">
          {priority === 0 && (
            <button type="button" className="act" onClick={() => void changeCampaign(id, { priority: 1 }).then(() => router.refresh())}>
              Before others
            </button>
          )}
          {state === 'paused' ? (
            <button type="button" className="act" onClick={() => void changeCampaign(id, { state: 'running' })}>
              Go on
            </button>
          ) : (
            <button type="button" className="act" onClick={() => void changeCampaign(id, { state: 'paused' })}>
              Hold
            </button>
          )}
          <button type="button" className="act" onClick={() => void stopRuns(id)}>
            Stop
          </button>
        </span>
      </div>
      {done > 0 && (
        <p className="mt-1.5 text-[13px]">
          So far {plural(failed, 'run')} of {done} {failed === 1 ? 'has' : 'have'} a break: {shareWords(failed, done)}.{' '}
          <button type="button" className="underline decoration-rule" onClick={() => router.refresh()}>
            Show what they found so far
          </button>
        </p>
      )}
    </div>
  );
}

/** An interval that stays valid however often one looks. */
function shareWords(failed: number, done: number): string {
  const { low, high } = anytimeInterval(failed, done);
  return `${percent(low).replace(/\s*%$/, '')} to ${percent(high)} at 95 % confidence, whenever one looks`;
}
