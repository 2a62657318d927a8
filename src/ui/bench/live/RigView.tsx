'use client';
import { type ReactNode, useState } from 'react';
import type { BenchView } from '@/core/project';
import { plural, timeWords } from '@/core/wording';
import { Choice } from '../../parts/Choice';
import { startRuns } from '../../progress/useProgress';
import { type BenchRunLine, BenchRuns } from './BenchRuns';
import { ChannelTable } from './ChannelTable';
import { Hands } from './Hands';
import { LiveChannels } from './LiveChannels';
import { ParameterTable } from './ParameterTable';
import { ShadowTable } from './ShadowTable';
import { SheetFile } from './SheetFile';
import { Timing } from './Timing';
import { Trend } from './Trend';
import { type BenchLink, useLiveBench } from './useLiveBench';

interface RigProps {
  readonly slug: string;
  readonly revision: number;
  readonly of: BenchView;
  /** Cases of its loop, whose values a run by hand can begin with; and those of the variants as well. */
  readonly cases: readonly string[];
  readonly allCases: readonly string[];
  /** The newest run of each case on a bench. */
  readonly runs: readonly BenchRunLine[];
}

/** One bench: its wiring, and while it is run by hand what goes over its wires beside the model's own answer. */
export function RigView({ slug, revision, of, cases, allCases, runs }: RigProps) {
  const link = useLiveBench(slug, of.bench, of.isStandIn ? `stand-in ${of.bench}` : of.controller);
  const { live, problem } = link;
  const [drawn, setDrawn] = useState<readonly string[]>([]);
  const isOn = live !== undefined && live.state !== 'ended';
  const toggle = (name: string): void => setDrawn((now) => (now.includes(name) ? now.filter((one) => one !== name) : [...now, name].slice(-4)));
  return (
    <>
      <div className={isOn ? 'sticky top-[-20px] z-10 bg-ground pb-2' : ''}>
        <h1 className="headline">
          <Headline of={of} link={link} />
        </h1>
        <p className="mt-1.5 max-w-[90ch] text-soft">
          {!isOn && of.about && `${of.about} `}
          {of.isStandIn ? 'A stand-in on this machine' : `Controller at ${of.controller}`},{' '}
          {of.program === 'own' ? 'with a program of its own' : 'given the build'}; values are exchanged every <Whole>{of.cycle}</Whole>
          {of.speed !== 1 && `, at ${of.speed} times real time`}. A cycle may begin <Whole>{of.lateness}</Whole> late
          {of.speed !== 1 && (
            <>
              , <Whole>{of.latenessInLoop}</Whole> of the loop's time
            </>
          )}
          ; verdicts that this may have decided are left open. After <Whole>{of.watchdog}</Whole> without inputs it goes to its safe state.
        </p>
        {of.faults.map((fault) => (
          <Alert key={fault}>{fault}</Alert>
        ))}
        {problem && <Alert>{problem}</Alert>}
        {live?.state === 'ended' && <Alert>It ended: {live.why}.</Alert>}
        {isOn && live.moments.at(-1)?.problem && <Alert>{sentence(live.moments.at(-1)?.problem ?? '')}</Alert>}
        <Actions of={of} link={link} cases={cases} allCases={allCases} isOn={isOn} slug={slug} />
        {isOn && live.moments.length > 0 && (
          <>
            <Hands live={live} act={link.act} />
            <Trend live={live} channels={of.channels} drawn={drawn} />
          </>
        )}
      </div>
      {isOn ? <LiveChannels of={of} live={live} act={link.act} drawn={drawn} draw={toggle} /> : <ChannelTable of={of} checked={link.checked} />}
      {isOn && live.shadowed && <ShadowTable slug={slug} live={live} loopFile={of.loopFile} />}
      {isOn && live.parameters.length > 0 && <ParameterTable live={live} act={link.act} />}
      {isOn && live.moments.length > 0 && <Timing moment={live.moments.at(-1)} />}
      {!isOn && runs.length > 0 && <BenchRuns slug={slug} runs={runs} />}
      {!isOn && <SheetFile slug={slug} revision={revision} of={of} />}
    </>
  );
}

function Headline({ of, link: { live, checked, holder } }: { readonly of: BenchView; readonly link: BenchLink }) {
  const last = live?.moments.at(-1);
  if (of.faults.length > 0) return <>The sheet of {of.bench} does not fit.</>;
  if (live?.state === 'starting') return <>{of.bench} is made ready.</>;
  if (live?.state === 'ending') return <>{of.bench} goes to its safe state.</>;
  if (live?.state !== 'running' || !last) {
    if (holder)
      return (
        <>
          {of.bench} is taken by {holder.what}.
        </>
      );
    if (!checked) return <>{of.bench} is at rest.</>;
    const bad = checked.filter((one) => !one.isSound).length;
    return bad === 0 ? (
      <>
        All {checked.length} channels of {of.bench} are sound.
      </>
    ) : (
      <>
        Of {plural(checked.length, 'channel')}, {bad} {bad === 1 ? 'is' : 'are'} not sound.
      </>
    );
  }
  if (!last.isConnected) return <>{of.bench} has lost its controller.</>;
  const amiss = live.faults.length;
  const tuned = Object.keys(live.tuned).length;
  return (
    <>
      {of.bench} runs: {timeWords(last.ns / 1e9)}
      {amiss > 0 && <span className="text-fail">, {plural(amiss, 'fault')} armed</span>}
      {tuned > 0 && <span className="text-fail">, {plural(tuned, 'parameter')} not as designed</span>}.
    </>
  );
}

interface ActionsProps extends Pick<RigProps, 'of' | 'cases' | 'allCases' | 'slug'> {
  readonly link: BenchLink;
  readonly isOn: boolean;
}

function Actions({ of, link: { live, act, check, isBusy }, cases, allCases, isOn, slug }: ActionsProps) {
  const [from, setFrom] = useState('');
  const [shadow, setShadow] = useState('');
  const [told, setTold] = useState('');
  const fits = of.faults.length === 0;
  const runCases = async (): Promise<void> => setTold((await startRuns(slug, allCases, 'bench')) ?? '');
  if (!isOn)
    return (
      <div className="mt-3 flex flex-wrap items-center gap-2">
        <button
          type="button"
          className="act act-first"
          disabled={isBusy || !fits}
          onClick={() => void act({ start: true, ...(from ? { from } : {}), ...(shadow ? { shadow } : {}) })}
        >
          Run by hand
        </button>
        <Choice
          label="from the values of"
          value={from}
          options={[['', 'the loop'] as const, ...cases.map((one) => [one, one] as const)]}
          choose={setFrom}
        />
        <Choice
          label="beside it"
          value={shadow}
          options={[['', 'nothing'] as const, ...of.plants.map((one) => [one, `the plant of ${one}`] as const)]}
          choose={setShadow}
        />
        <button type="button" className="act ml-4" disabled={isBusy || !fits} onClick={() => void check()}>
          Check wiring
        </button>
        <button type="button" className="act" disabled={!fits || allCases.length === 0} onClick={() => void runCases()}>
          Run {plural(allCases.length, 'case')}
        </button>
        {told && (
          <p role="alert" className="basis-full text-fail">
            {told}
          </p>
        )}
      </div>
    );
  return (
    <div className="mt-3 flex flex-wrap items-center gap-2">
      <button type="button" className="act act-first" disabled={isBusy} onClick={() => void act({ stop: true })}>
        Stop
      </button>
      <button type="button" className="act" disabled={Object.keys(live?.tuned ?? {}).length === 0} onClick={() => void act({ back: true })}>
        Set all back
      </button>
      <button type="button" className="act" disabled={(live?.faults.length ?? 0) === 0} onClick={() => void act({ sound: true })}>
        All faults off
      </button>
      <button type="button" className="act" onClick={() => void act({ begin: true })}>
        Controller begins anew
      </button>
    </div>
  );
}

function Alert({ children }: { readonly children: ReactNode }) {
  return (
    <p role="alert" className="mt-3 border-fail border-l-[3px] bg-fail-tint px-3 py-1.5">
      {children}
    </p>
  );
}

function sentence(words: string): string {
  return `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;
}

/** A number does not part from its unit at the end of a line. */
function Whole({ children }: { readonly children: string }) {
  return <span className="whitespace-nowrap">{children}</span>;
}
