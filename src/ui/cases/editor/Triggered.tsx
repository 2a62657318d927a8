'use client';
import type { TriggeredByCases } from '@/core/evidence';
import { marginWords, plural, timeWords } from '@/core/wording';
import { touchedWords } from '../../coverage/sentence';
import type { EngineTalk } from '../../engine/messages';

interface TriggeredProps {
  readonly run: EngineTalk['edit case']['answer']['run'];
  readonly name: string;
  readonly triggered: TriggeredByCases;
  /** All other cases have been run. */
  readonly isKnown: boolean;
  /** The requirement the case is to trigger, or to break. */
  readonly aim: { readonly requirement: string; readonly broken: boolean } | undefined;
}

/** The borders of a criterion that the run reaches. */
function bordersOf(run: TriggeredProps['run'], { requirement, criterion }: { readonly requirement: string; readonly criterion: string }) {
  return (run?.borders ?? []).filter((one) => one.requirement === requirement && one.criterion === criterion);
}

/** The criteria that the case triggers, with their margins, and which of them it alone does. */
export function Triggered({ run, name, triggered, isKnown, aim }: TriggeredProps) {
  const shown = [...(run?.triggered ?? [])].sort((a, b) => (a.worst?.margin?.measure ?? 0) - (b.worst?.margin?.measure ?? 0));
  const others = (one: (typeof shown)[number]): number =>
    triggered.criteria
      .find((other) => other.requirement === one.requirement && other.criterion === one.criterion)
      ?.cases.filter((test) => test !== name).length ?? 0;
  const isReached = shown.some((one) => one.requirement === aim?.requirement && (!aim.broken || one.verdict === 'fail'));
  const done = aim?.broken ? 'broken' : 'triggered';
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: a list that scrolls is walked by keyboard
    <section tabIndex={0} className="min-h-0 flex-[2] overflow-y-auto border-ink border-t px-4 py-3" aria-label="What it triggers">
      <h2 className="font-bold">What it triggers</h2>
      {aim && (
        <p role="status" className={!isReached ? 'text-lack' : aim.broken ? 'text-fail' : 'text-pass'}>
          {isReached ? `${aim.requirement} is ${done}.` : `${aim.requirement} is not ${done} yet.`}
        </p>
      )}
      {run && shown.length === 0 && <p className="text-soft">Nothing yet: no condition of a criterion occurs in its run.</p>}
      <ul>
        {shown.map((one) => (
          <li key={`${one.requirement} ${one.criterion}`} className="border-rule border-b py-1">
            <span className="flex items-baseline gap-2">
              <span className="figure whitespace-nowrap">{one.requirement}</span>
              <span className="truncate text-[12.5px] text-soft">{one.criterion}</span>
              <span
                className={`figure ml-auto whitespace-nowrap ${one.verdict === 'fail' ? 'font-bold text-fail' : one.verdict === 'inconclusive' ? 'text-lack' : 'text-pass'}`}
              >
                {one.worst?.margin ? marginWords(one.worst.margin) : one.verdict} <span className="text-lack">×{one.obligations}</span>
              </span>
            </span>
            <span className="block text-[12px] text-soft">
              {others(one) === 0 ? (
                <b className="text-ink">no other case {isKnown ? '' : 'that has been run '}triggers it</b>
              ) : (
                `${plural(others(one), 'other case')} too`
              )}
            </span>
            {bordersOf(run, one).map(({ says, at }) => (
              <span key={says} className="block text-[12px]">
                {says}
                {at !== undefined && <span className="figure text-soft"> at {timeWords(at)}</span>}
              </span>
            ))}
          </li>
        ))}
      </ul>
      {run && run.touched.items.length > 0 && <p className="mt-2 text-[12.5px] text-soft">By itself it {touchedWords(run.touched, true)}.</p>}
    </section>
  );
}
