'use client';
import Link from 'next/link';
import { useSearchParams } from 'next/navigation';
import { Tabs } from 'radix-ui';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { criterionSlots } from '@/core/criteria';
import type { RunDetail, RunObligation } from '@/core/evidence';
import { writeCsvTrace } from '@/core/formats';
import { ofCase } from '@/core/project';
import type { Trace } from '@/core/trace';
import { plural, sentenceOf, shortfallWords, timeWords } from '@/core/wording';
import type { Replayed } from '../engine/engine';
import { useReplay } from '../engine/useReplay';
import { saveText } from '../parts/saveText';
import { PhasePane } from '../plot/PhasePane';
import { useCursors } from '../plot/sheet/LaneSheet';
import { type Window, windowAround } from '../plot/sheet/window';
import { BackToBackNote } from './BackToBackNote';
import { BenchNote } from './BenchNote';
import { ObligationList } from './ObligationList';
import { RunPlot } from './RunPlot';
import { WhyNotPanel } from './WhyNotPanel';

/** One run: its lanes, and its obligations in order of time. Opens at the obligation that the address names. */
export function RunView({ run, trail }: { readonly run: RunDetail; readonly trail?: ReactNode }) {
  const search = useSearchParams();
  const [chosen, setChosen] = useState<RunObligation | undefined>(() => firstChoice(run, search));
  const replay = useReplay(run.address);
  const cursors = useCursors();
  const { whole, view, setView } = useView(replay.k === 'ready' ? replay.replayed.trace : undefined, chosen);
  const choose = (one: RunObligation): void => {
    setChosen(one);
    const address = new URLSearchParams({ requirement: one.requirement, criterion: one.criterion, from: String(one.obligation.from) });
    window.history.replaceState(null, '', `?${address}`);
  };
  return (
    <div className="panes grid h-full grid-cols-[1fr_340px]">
      <main className="flex h-full min-w-0 flex-col px-6 pt-4 max-md:px-3">
        <p className="text-soft">
          {trail ?? (
            <>
              <Link href={`/p/${run.slug}/cases`} className="underline decoration-rule">
                Cases
              </Link>{' '}
              › {run.caseName} › run {run.id}
            </>
          )}
        </p>
        <h1 className="headline">
          <Answer run={run} />
        </h1>
        <div className="mt-1.5 mb-2 flex flex-wrap items-center gap-2">
          {replay.k === 'ready' && (
            <button type="button" className="act" onClick={() => saveText(`${run.caseName}.csv`, writeCsvTrace(replay.replayed.trace), 'text/csv')}>
              Save data
            </button>
          )}
          <Facts run={run} replay={replay} />
        </div>
        <Caution run={run} />
        {run.bench && <BenchNote of={run.bench} />}
        {run.backToBack && <BackToBackNote found={run.backToBack} stage={run.stage} />}
        {replay.k === 'ready' &&
          replay.replayed.result.clipped.map((one) => (
            <p key={one.signal} className="mb-2 border-lack border-l-[3px] bg-lack-tint px-3 py-1.5">
              {one.message}
            </p>
          ))}
        {replay.k === 'waiting' && (
          <p role="status" className="text-soft">
            Replaying the run …
          </p>
        )}
        {replay.k === 'problem' && <p className="text-fail">The run could not be replayed: {replay.message}</p>}
        {replay.k === 'ready' && (
          <RunPlot key={run.address} replayed={replay.replayed} chosen={chosen} view={view} whole={whole} setView={setView} cursors={cursors} />
        )}
      </main>
      <About>
        {{
          obligations: <ObligationList run={run} chosen={chosen} choose={choose} />,
          phase: replay.k === 'ready' && (
            <PhasePane
              traces={[{ trace: replay.replayed.trace, tone: 'var(--s1)' }]}
              names={namesOf(replay.replayed, chosen)}
              view={view}
              at={cursors.pointer ?? cursors.marks.a}
            />
          ),
          why: replay.k === 'ready' && <WhyNotPanel order={replay.replayed.order} slug={run.slug} />,
        }}
      </About>
    </div>
  );
}

/** The part of the run that is on the screen: around the chosen obligation, until people go elsewhere. */
function useView(trace: Trace | undefined, chosen: RunObligation | undefined) {
  const whole = useMemo(() => ({ from: trace?.from ?? 0, until: trace?.until ?? 1 }), [trace]);
  const [view, setView] = useState<Window>(whole);
  useEffect(() => setView(chosen ? windowAround(chosen.obligation, whole) : whole), [chosen, whole]);
  return { whole, view, setView };
}

/** The signals that the chosen criterion speaks of. */
function namesOf({ trace, order }: Replayed, chosen: RunObligation | undefined): string[] {
  const watched = order.watched.find((one) => one.requirement === chosen?.requirement && one.name === chosen.criterion);
  const slots = watched ? criterionSlots(watched.criterion) : [];
  return slots.flatMap((slot) => trace.columns.find((column) => column.slot === slot)?.name ?? []);
}

function About({ children }: { readonly children: { readonly obligations: ReactNode; readonly phase: ReactNode; readonly why: ReactNode } }) {
  return (
    <Tabs.Root defaultValue="obligations" className="flex h-full min-h-0 flex-col border-rule border-l bg-sheet">
      <Tabs.List className="flex gap-4 border-rule border-b px-4 pt-3" aria-label="About this run">
        <Tabs.Trigger value="obligations" className="tab">
          Obligations
        </Tabs.Trigger>
        <Tabs.Trigger value="phase" className="tab">
          Phase plot
        </Tabs.Trigger>
        <Tabs.Trigger value="why" className="tab">
          Why wasn’t it taken?
        </Tabs.Trigger>
      </Tabs.List>
      <Tabs.Content value="obligations" className="min-h-0 flex-1">
        {children.obligations}
      </Tabs.Content>
      <Tabs.Content value="phase" className="min-h-0 flex-1">
        {children.phase}
      </Tabs.Content>
      <Tabs.Content value="why" className="min-h-0 flex-1">
        {children.why}
      </Tabs.Content>
    </Tabs.Root>
  );
}

/** What the run was made of, how long it took, and whether the one made here is the same. */
function Facts({ run, replay }: { readonly run: RunDetail; readonly replay: ReturnType<typeof useReplay> }) {
  return (
    <p className="ml-auto text-[13px] text-soft">
      stage <b className="text-ink">{run.stage}</b> · seed {run.seed} · {timeWords(run.simulatedSeconds)}
      {run.elapsedMs !== undefined && ` in ${Math.round(run.elapsedMs)} ms`} · revision {run.revision}, {run.isCurrent ? 'current' : 'out of date'}
      {replay.k === 'ready' && <span data-trace={replay.replayed.result.traceHash}> · {replayWords(run, replay.replayed.result.traceHash)}</span>}
    </p>
  );
}

/** Why the run proves less than it seems to. */
function Caution({ run }: { readonly run: RunDetail }) {
  if (!run.error && !run.discounted && !run.gaveUp) return null;
  return (
    <p role="alert" className="mb-2 border-fail border-l-[3px] bg-fail-tint px-3 py-1.5">
      {run.error
        ? sentenceOf(`The run ended at ${timeWords(run.error.at)}: ${run.error.message}`)
        : run.discounted
          ? `Passes from this run do not count: ${run.discounted}.`
          : `The script gave up waiting for: ${run.gaveUp}.`}
    </p>
  );
}

function firstChoice(run: RunDetail, search: { get(key: string): string | null }): RunObligation | undefined {
  const [requirement, criterion, from] = [search.get('requirement'), search.get('criterion'), search.get('from')];
  const fits = run.obligations.filter((one) => (!requirement || one.requirement === requirement) && (!criterion || one.criterion === criterion));
  return (
    fits.find((one) => from !== null && one.obligation.from === Number(from)) ??
    fits.find((one) => one.obligation.outcome === 'broken') ??
    (requirement ? fits[0] : undefined)
  );
}

/** What the case itself expected and was not so. */
function Unmet({ run }: { readonly run: RunDetail }) {
  const count = run.obligations.filter((one) => one.requirement === ofCase && one.obligation.outcome !== 'met').length;
  return count === 0 ? null : (
    <>
      ; <span className="text-fail">{plural(count, 'expectation')} of the case not met</span>
    </>
  );
}

/** The headline: what this run breaks, and how much it met. */
function Answer({ run }: { readonly run: RunDetail }) {
  const owed = run.obligations.filter((one) => one.requirement !== ofCase);
  const { broken, met } = useMemo(() => {
    const ids = (outcome: string): string[] => [
      ...new Set(run.obligations.filter((one) => one.requirement !== ofCase && one.obligation.outcome === outcome).map((one) => one.requirement)),
    ];
    const failing = ids('broken');
    return { broken: failing, met: ids('met').filter((id) => !failing.includes(id)) };
  }, [run]);
  const unmet = run.obligations.length - owed.length > 0 ? <Unmet run={run} /> : null;
  const worst = owed
    .filter((one) => one.obligation.outcome === 'broken')
    .reduce<RunObligation | undefined>(
      (best, one) => (best && (best.obligation.margin?.measure ?? 0) <= (one.obligation.margin?.measure ?? 0) ? best : one),
      undefined,
    );
  if (!worst)
    return (
      <>
        Breaks nothing; {plural(met.length, 'requirement')} met{unmet}.
      </>
    );
  const { margin, at } = worst.obligation;
  return (
    <>
      Breaks <strong className="font-semibold">{worst.requirement}</strong>
      {margin ? ` by ${shortfallWords(margin)}` : ''} at {timeWords(at)}
      {broken.length > 1 ? ` and ${plural(broken.length - 1, 'other')}` : ''}; {plural(met.length, 'other requirement')} met{unmet}.
    </>
  );
}

/** Whether the run that was made here is the one that was recorded; of one on a bench what was recorded is shown. */
function replayWords({ stage, traceHash }: RunDetail, found: string): string {
  if (stage === 'bench') return 'as recorded';
  return found === traceHash ? 'replayed here: identical' : 'replayed here: the bytes differ';
}
