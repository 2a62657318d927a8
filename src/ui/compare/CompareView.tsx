'use client';
import { useRouter } from 'next/navigation';
import { type ReactNode, useMemo, useRef, useState } from 'react';
import type { CompareSettings, SignalComparison, TraceComparison } from '@/core/compare';
import type { SourceFile } from '@/core/documents';
import { figure, plural, timeWords } from '@/core/wording';
import { saveRevision } from '../drafts/saveRevision';
import { askEngine } from '../engine/engine';
import type { Compared, ComparedWith } from '../engine/messages';
import { useAddress } from '../hooks/useAddress';
import { type Revision, useFilesOf } from '../hooks/useRevision';
import { Choice } from '../parts/Choice';
import { Overlay } from './Overlay';
import { useComparison } from './useComparison';

const bands = [0.001, 0.01, 0.05];
const ripples = [0, 0.5, 2, 10];
/** Lanes below the first one. */
const mostBeside = 3;

interface Recording {
  readonly name: string;
  readonly text: string;
}

/** Two runs, or a run and a recording: where they agree, where they part, and what tells them apart. */
export function CompareView({ slug, newest }: { readonly slug: string; readonly newest: Revision }) {
  const { revision } = newest;
  const files = useFilesOf(newest);
  const [first, setFirst] = useAddress('first');
  const [second, setSecond] = useAddress('second');
  const [plant, setPlant] = useAddress('plant');
  const [recording, setRecording] = useState<Recording>();
  const [relative, setRelative] = useState(0.01);
  const [ripple, setRipple] = useState(0);
  const settings = useMemo(() => ({ absolute: 0, relative, ripple, turns: {} }), [relative, ripple]);
  const [run, setRun] = useAddress('run');
  const other = otherOf(recording, plant, second, run);
  const { found, problem } = useComparison(files, first, other, settings);
  const comparison = found?.comparison;
  const chooseSecond = (value: string): void => {
    const name = value.slice(value.indexOf(':') + 1);
    setRecording(undefined);
    setRun(value.startsWith('run:') ? name : undefined);
    setPlant(value.startsWith('plant:') ? name : undefined);
    setSecond(value.startsWith('case:') ? name : undefined);
  };
  const because = `compared with ${recording?.name ?? `${other?.k === 'variant' ? 'the plant' : 'the case'} ${found?.second}`}, within ${100 * relative} %`;
  return (
    <main className="h-full overflow-y-auto px-6 pt-5 pb-12">
      <h1 className="headline">{problem ?? found?.comparison?.words ?? (found ? 'The two do not overlap in time.' : 'Simulating both runs …')}</h1>
      <div className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2">
        <Choice label="First" tone="--s1" options={found?.cases ?? []} value={found?.first ?? ''} choose={setFirst} />
        <Choice
          label="Second"
          tone="--s2"
          options={[
            ...(recording ? [['', recording.name] as const] : []),
            ...(other?.k === 'campaign run' ? [[`run:${run}`, found?.second ?? `run ${other.run}`] as const] : []),
            ...(found?.variants ?? []).map((one) => [`plant:${one}`, `the first, on its ${one} plant`] as const),
            ...(found?.cases ?? []).map((one) => [`case:${one}`, one] as const),
          ]}
          value={recording ? '' : other?.k === 'campaign run' ? `run:${run}` : `${other?.k === 'variant' ? 'plant' : 'case'}:${found?.second ?? ''}`}
          choose={chooseSecond}
        />
        <RecordingPicker choose={setRecording} />
        <Choice label="Band" value={relative} options={bands.map((one) => [one, `± ${100 * one} %`] as const)} choose={setRelative} />
        <Choice
          label="Ripple averaged over"
          value={ripple}
          options={ripples.map((one) => [one, one === 0 ? 'nothing' : timeWords(one)] as const)}
          choose={setRipple}
        />
      </div>
      {found && comparison && (
        <SideBySide found={found} comparison={comparison} band={settings}>
          {(shown) =>
            other?.k !== 'campaign run' && (
              <Trust signal={shown} slug={slug} revision={revision} files={files} first={found.first} because={because} />
            )
          }
        </SideBySide>
      )}
      {comparison && (comparison.onlyFirst.length > 0 || comparison.onlySecond.length > 0) && (
        <p className="mt-4 text-soft">
          {plural(comparison.onlyFirst.length, 'signal')} of the first and {comparison.onlySecond.length} of the second have no counterpart.
        </p>
      )}
    </main>
  );
}

function RecordingPicker({ choose }: { readonly choose: (recording: Recording) => void }) {
  const picker = useRef<HTMLInputElement>(null);
  const take = async (file: File | undefined): Promise<void> => {
    if (file) choose({ name: file.name, text: await file.text() });
  };
  return (
    <>
      <button type="button" className="act" onClick={() => picker.current?.click()}>
        or a recording …
      </button>
      <input
        ref={picker}
        type="file"
        accept=".csv,text/csv"
        className="hidden"
        aria-label="Recording"
        onChange={(event) => void take(event.target.files?.[0])}
      />
    </>
  );
}

interface SideBySideProps {
  readonly found: Compared;
  readonly comparison: TraceComparison;
  readonly band: CompareSettings;
  /** What is shown below the figures of a signal. */
  readonly children: (shown: SignalComparison) => ReactNode;
}

/** The signal that diverges first, or the one that was picked, over the others that were put beside it; and the list to pick from. */
function SideBySide({ found, comparison, band, children }: SideBySideProps) {
  const [picked, setPicked] = useState<string>();
  const [beside, setBeside] = useState<readonly string[]>([]);
  const [cursor, setCursor] = useState<number>();
  const ordered = [...comparison.signals].sort((a, b) => Number(a.agrees) - Number(b.agrees) || (a.parts ?? 0) - (b.parts ?? 0));
  const shown = ordered.find((one) => one.name === picked) ?? ordered[0];
  if (!shown) return null;
  const lanes = [shown, ...ordered.filter((one) => one !== shown && beside.includes(one.name))];
  return (
    <div className="mt-4 grid grid-cols-[1fr_360px] gap-8 border-ink border-t pt-4">
      <section aria-label="Signal">
        {lanes.map((signal) => (
          <Overlay
            key={signal.name}
            first={found.traces[0]}
            second={found.traces[1]}
            signal={signal}
            from={comparison.from}
            until={comparison.until}
            band={band}
            height={lanes.length > 1 ? 150 : 300}
            cursor={cursor}
            point={setCursor}
          />
        ))}
        <Figures signal={shown} />
        {children(shown)}
      </section>
      <Signals
        signals={ordered}
        shown={shown}
        pick={setPicked}
        beside={beside}
        toggle={(name) => setBeside((now) => (now.includes(name) ? now.filter((one) => one !== name) : [...now, name].slice(-mostBeside)))}
      />
    </div>
  );
}

function otherOf(
  recording: Recording | undefined,
  plant: string | undefined,
  second: string | undefined,
  run: string | undefined,
): ComparedWith | undefined {
  if (recording) return { k: 'recording', text: recording.text };
  // Campaign, run and document of the campaign, as the link has them.
  const [, campaign, number, document] = /^(\d+)\.(\d+)\.(.*)$/.exec(run ?? '') ?? [];
  if (document !== undefined) return { k: 'campaign run', campaign: Number(campaign), run: Number(number), document };
  if (plant !== undefined) return { k: 'variant', variant: plant };
  return second === undefined ? undefined : { k: 'case', case: second };
}

interface TrustProps {
  readonly signal: SignalComparison;
  readonly slug: string;
  readonly revision: number;
  readonly files: readonly SourceFile[];
  /** The case whose plant is trusted. */
  readonly first: string;
  readonly because: string;
}

/** Offers to write down where the plant may be trusted: outside, a run gives no pass. */
function Trust({ signal, slug, revision, files, first, because }: TrustProps) {
  const router = useRouter();
  const [said, setSaid] = useState('');
  const { name, unit, between } = signal;
  if (!between) return null;
  const trust = async (): Promise<void> => {
    const file = await askEngine('trust', { files, case: first, signal, because });
    const saved = await saveRevision(slug, revision, [file]);
    setSaid(
      typeof saved === 'string'
        ? saved
        : `Written into ${file.path}, revision ${saved.revision}. Runs of its loop are out of date until they are run again.`,
    );
    if (typeof saved !== 'string') router.refresh();
  };
  return (
    <div className="mt-3 flex items-center gap-3 border-rule border-t pt-3 text-[13px]">
      <button type="button" className="act" onClick={() => void trust()}>
        Trust {name} from {figure(between.low)} to {figure(between.high)} {unit}
      </button>
      <span role="status" className="text-soft">
        {said || 'The longest span in which it stays in its band. A run that leaves it will give no pass.'}
      </span>
    </div>
  );
}

function Figures({ signal }: { readonly signal: SignalComparison }) {
  const { agrees, parts, largest, largestAt, rms, fit, trend, kind, delay, delayResolution, missing, gain, offset, unit } = signal;
  const rows: readonly (readonly [string, string])[] = [
    ['Band', agrees ? 'never left' : `left at ${timeWords(parts ?? 0)}`],
    ['Largest gap', `${figure(largest)} ${unit} at ${timeWords(largestAt)}`],
    ['Root mean square', `${figure(rms)} ${unit}`],
    ['Fit', Number.isFinite(fit) ? `${fit.toFixed(1)} %` : 'none: the first is constant'],
    ['Same trend', `${(100 * trend).toFixed(0)} % of the time`],
    ['Main difference', kind === 'equal' ? 'nothing' : kind === 'shape' ? 'no single cause' : `a ${kind}`],
    ['Second lags by', `${timeWords(Number(delay.toPrecision(3)))}, to within ${timeWords(Number(delayResolution.toPrecision(2)))}`],
    ...(missing > 0 ? [['Not compared', `${timeWords(missing)} without a value`] as const] : []),
    ['Second is', `${figure(gain)} × first ${offset < 0 ? '−' : '+'} ${figure(Math.abs(offset))} ${unit}`],
  ];
  return (
    <dl className="mt-3 grid grid-cols-[130px_1fr] gap-y-1 text-[13px]">
      {rows.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-soft">{name}</dt>
          <dd className="figure">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

interface SignalsProps {
  readonly signals: readonly SignalComparison[];
  readonly shown: SignalComparison;
  readonly pick: (name: string) => void;
  readonly beside: readonly string[];
  readonly toggle: (name: string) => void;
}

function Signals({ signals, shown, pick, beside, toggle }: SignalsProps) {
  return (
    <ul aria-label="Signals" className="max-h-[560px] overflow-y-auto">
      {signals.map((one) => (
        <li key={one.name} className="grid grid-cols-[1fr_auto] border-rule border-b">
          <button
            type="button"
            aria-pressed={one.name === shown.name}
            className={`grid grid-cols-[1fr_auto] gap-3 px-2 py-1.5 text-left text-[13px] ${one.name === shown.name ? 'bg-tint shadow-[inset_3px_0_0_var(--ink)]' : ''}`}
            onClick={() => pick(one.name)}
          >
            <span className="truncate">{one.name}</span>
            <span className={one.agrees ? 'text-soft' : 'text-fail'}>
              {one.agrees ? 'agrees' : `diverges at ${timeWords(one.parts ?? 0)}${one.kind === 'shape' ? '' : `, ${one.kind}`}`}
            </span>
          </button>
          <button
            type="button"
            aria-label={`${one.name} beside`}
            aria-pressed={beside.includes(one.name)}
            title={beside.includes(one.name) ? 'Remove it' : 'Show it below, with the same cursor'}
            className={`px-2 text-[13px] ${beside.includes(one.name) ? 'text-ink' : 'text-soft'}`}
            onClick={() => toggle(one.name)}
          >
            {beside.includes(one.name) ? '−' : '+'}
          </button>
        </li>
      ))}
    </ul>
  );
}
