'use client';
import { useMemo } from 'react';
import type { RunDetail, RunObligation } from '@/core/evidence';
import { marginWords, plural, timeWords } from '@/core/wording';
import { useWalk } from '../hooks/useWalk';

function keyOf(one: RunObligation): string {
  return `${one.requirement}/${one.criterion}/${one.ordinal}`;
}

/** All obligations of a run in order of time; choosing one brings the plot there. */
export function ObligationList({
  run,
  chosen,
  choose,
}: {
  readonly run: RunDetail;
  readonly chosen: RunObligation | undefined;
  readonly choose: (one: RunObligation) => void;
}) {
  const byKey = useMemo(() => new Map(run.obligations.map((one) => [keyOf(one), one])), [run]);
  const selected = chosen && keyOf(chosen);
  // Hours and minutes need a line of their own.
  const isLong = run.simulatedSeconds >= 600;
  const onKeyDown = useWalk([...byKey.keys()], selected, (key) => {
    const one = byKey.get(key);
    if (one) choose(one);
  });
  return (
    <aside className="h-full overflow-y-auto px-4 pt-3 pb-8" aria-label="Obligations in this run">
      <p className="text-[13px] text-soft">in order of time; select to zoom there</p>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: the list is walked with the arrow keys */}
      <ul className="mt-2 border-rule border-t" tabIndex={0} onKeyDown={onKeyDown}>
        {[...byKey].map(([key, one]) => {
          const { obligation } = one;
          const tone = { met: 'text-pass', broken: 'text-fail', open: 'text-lack' }[obligation.outcome];
          return (
            <li key={key} id={`row-${key}`}>
              <button
                type="button"
                aria-pressed={key === selected}
                onClick={() => choose(one)}
                className={`grid w-full ${isLong ? 'grid-cols-[54px_1fr]' : 'grid-cols-[62px_54px_1fr]'} gap-x-1.5 border-rule border-b py-2 pr-1 pl-2 text-left ${key === selected ? `shadow-[inset_3px_0_0_currentColor] ${tone} ${obligation.outcome === 'broken' ? 'bg-fail-tint' : 'bg-tint'}` : ''}`}
              >
                <span className={`figure whitespace-nowrap text-ink ${isLong ? 'col-span-2' : ''}`}>
                  {timeWords(obligation.from, run.simulatedSeconds)}
                </span>
                <span className="font-semibold text-[12.5px] text-ink">{one.requirement}</span>
                <span className={`figure text-right ${tone}`}>
                  {obligation.outcome === 'open' ? 'open' : obligation.margin ? marginWords(obligation.margin) : obligation.outcome}
                </span>
                <span className={`${isLong ? 'col-span-2' : 'col-span-2 col-start-2'} text-[12.5px] text-soft leading-snug`}>
                  {one.criterion}
                  {obligation.reason ? ` (${obligation.reason})` : ''}
                </span>
              </button>
            </li>
          );
        })}
      </ul>
      {run.untriggered.length > 0 && (
        <p className="mt-3 text-[13px] text-soft">
          Untriggered here: {run.untriggered.join(', ')} ({plural(run.untriggered.length, 'requirement')}).
        </p>
      )}
    </aside>
  );
}
