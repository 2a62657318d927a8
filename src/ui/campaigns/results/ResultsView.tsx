'use client';
import Link from 'next/link';
import type { CampaignLine, CampaignView } from '@/core/campaign';
import { plural, timeWords } from '@/core/wording';
import { useAddress } from '../../hooks/useAddress';
import { useProgress } from '../../progress/useProgress';
import { Against } from './Against';
import { CriterionList } from './CriterionList';
import { keyOf } from './criterionKey';
import { Live } from './Live';
import { Pictures } from './Pictures';

interface ResultsProps {
  readonly slug: string;
  /** The newest revision of the project. */
  readonly revision: number;
  readonly view: CampaignView;
  readonly lines: readonly CampaignLine[];
}

/** What the runs of a campaign found: first in a sentence, then drawn, then run by run. */
export function ResultsView({ slug, revision, view, lines }: ResultsProps) {
  const { progress } = useProgress(slug, view.progress, view.progress.id);
  const [at, setAt] = useAddress('criterion');
  const [against, setAgainst] = useAddress('against');
  const chosen = view.criteria.find((one) => keyOf(one) === at) ?? view.criteria[0];
  const now = progress ?? view.progress;
  /** Runs of which the page knows what they found. */
  const known = view.progress.done;
  return (
    <div className="panes grid h-full grid-cols-[1fr_300px]">
      <main className="h-full min-w-0 overflow-y-auto px-6 pt-4 pb-12">
        <p className="text-soft">
          <Link href={`/p/${slug}/campaigns?campaign=${encodeURIComponent(view.document)}`} className="underline decoration-rule">
            {view.document}
          </Link>{' '}
          › revision {view.revision}
          {!view.isCurrent && <span className="font-serif text-lack italic"> · out of date: other runs would be made today</span>}
        </p>
        <h1 className="headline mt-0.5">
          {chosen && known > 0 ? chosen.words : now.done > 0 ? `${plural(now.done, 'run')} of ${now.total} done.` : 'No run is done yet.'}
        </h1>
        {known > 0 && known < now.done && (
          <p className="text-soft">
            That is what {plural(known, 'run')} found; {now.done} are done by now.
          </p>
        )}
        {view.ending && <p className="mt-1 font-serif text-[16px]">{view.ending}</p>}
        <Live progress={now} priority={view.priority} />
        <p className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1 text-[13px] text-soft">
          <Times progress={now} />
          <a className="underline" download href={`/api/campaigns/${now.id}/csv`}>
            Save all runs as CSV
          </a>
          {known > 0 && (
            <Link className="underline" href={`/p/${slug}/coverage?of=${now.id}`}>
              What they touch of the logic
            </Link>
          )}
          <Against slug={slug} view={view} lines={lines} against={against} choose={setAgainst} chosen={chosen} />
        </p>
        {chosen && known > 0 && <Pictures key={keyOf(chosen)} slug={slug} revision={revision} view={view} criterion={chosen} against={against} />}
      </main>
      {known > 0 && <CriterionList criteria={view.criteria} at={chosen && keyOf(chosen)} choose={setAt} />}
    </div>
  );
}

/** Wall time beside what one core would have taken. */
function Times({ progress: { done, elapsedMs, busyMs = 0, state } }: { readonly progress: CampaignView['progress'] }) {
  if (done === 0) return null;
  const words = (ms: number): string => timeWords(Number(Math.max(0.1, ms / 1000).toPrecision(2)));
  const took = state === 'finished' || state === 'stopped' ? 'took' : 'have taken';
  return (
    <span>
      {plural(done, 'run')} {took} {words(elapsedMs)}; one core would have needed {words(busyMs)}.
    </span>
  );
}
