'use client';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import type { SourceFile } from '@/core/documents';
import { type FitResult, fittedSet } from '@/core/fit';
import { figure, plural } from '@/core/wording';
import { saveRevision } from '../drafts/saveRevision';
import { askEngine } from '../engine/engine';
import type { EngineTalk } from '../engine/messages';
import { useAddress } from '../hooks/useAddress';
import { useAsked } from '../hooks/useAsked';
import { type Revision, useFilesOf } from '../hooks/useRevision';
import { Choice } from '../parts/Choice';
import { CurveChart } from '../plot/CurveChart';

interface Recording {
  readonly name: string;
  readonly text: string;
}

/** Parameters of a plant found from a recording: what was found, how sure it is, and how well it does on a recording it has not seen. */
export function FitView({ slug, newest }: { readonly slug: string; readonly newest: Revision }) {
  const { revision } = newest;
  const files = useFilesOf(newest);
  const [name, setName] = useAddress('case');
  const [recording, setRecording] = useState<Recording>();
  const [holdOut, setHoldOut] = useState<Recording>();
  const [signals, setSignals] = useState<readonly string[]>([]);
  const [parameters, setParameters] = useState<readonly string[]>([]);
  const ask = useMemo(
    () => ({ files, ...(name ? { case: name } : {}), ...(recording ? { recording: recording.text } : {}) }),
    [files, name, recording],
  );
  const { found, problem } = useAsked('fit choices', ask);
  const { result, said, fit, forget, keep } = useFitting(slug, revision);
  const record = (next: Recording | undefined): void => {
    setRecording(next);
    setSignals([]);
    forget();
  };
  const start = (): void => {
    if (!recording || !found) return;
    void fit({ files, case: found.of, recording: recording.text, ...(holdOut ? { holdOut: holdOut.text } : {}), signals, parameters });
  };
  return (
    <main className="h-full overflow-y-auto px-6 pt-5 pb-12">
      <h1 className="headline">{result?.words ?? problem ?? headOf(recording, signals, parameters)}</h1>
      <div className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2">
        <Choice label="Case" value={found?.of ?? ''} options={found?.cases ?? []} choose={setName} />
        <RecordingChoice label="Recording" files={files} known={found?.recordings ?? []} chosen={recording} choose={record} />
        <RecordingChoice label="Check on" files={files} known={found?.recordings ?? []} chosen={holdOut} choose={setHoldOut} />
        <button type="button" className="act act-first" disabled={!recording || signals.length === 0 || parameters.length === 0} onClick={start}>
          Fit
        </button>
        <span role="status" className="text-soft">
          {said}
        </span>
      </div>
      <div className="mt-4 grid grid-cols-[300px_1fr] gap-8 max-md:grid-cols-1 border-ink border-t pt-4">
        <div>
          <RecordedSignals recording={recording} found={found?.signals} chosen={signals} choose={setSignals} />
          <ParametersToFit known={found?.parameters ?? []} chosen={parameters} choose={setParameters} />
        </div>
        {result && (
          <div>
            <Found result={result} />
            <Curves result={result} />
            <KeepSet keep={(as) => void keep(as, recording?.name ?? '')} />
          </div>
        )}
      </div>
    </main>
  );
}

/** One fit at a time: what it found, and what is said of it. */
function useFitting(slug: string, revision: number) {
  const router = useRouter();
  const [result, setResult] = useState<FitResult>();
  const [said, setSaid] = useState('');
  const fit = async (order: EngineTalk['fit']['ask']): Promise<void> => {
    setSaid('Fitting …');
    setResult(undefined);
    try {
      setResult(await askEngine('fit', order));
      setSaid('');
    } catch (trouble) {
      setSaid(trouble instanceof Error ? trouble.message : String(trouble));
    }
  };
  const keep = async (as: string, recording: string): Promise<void> => {
    if (!result) return;
    const file = fittedSet(as, recording, result);
    const saved = await saveRevision(slug, revision, [file]);
    setSaid(typeof saved === 'string' ? saved : `Kept as ${file.path}, revision ${saved.revision}. A case takes it with parameter_sets: [${as}].`);
    if (typeof saved !== 'string') router.refresh();
  };
  return { result, said, fit, forget: () => setResult(undefined), keep };
}

interface RecordedSignalsProps {
  readonly recording: Recording | undefined;
  /** Columns of the recording that are named after signals of the loop, once it has been looked at. */
  readonly found: readonly string[] | undefined;
  readonly chosen: readonly string[];
  readonly choose: (names: readonly string[]) => void;
}

function RecordedSignals({ recording, found, chosen, choose }: RecordedSignalsProps) {
  return (
    <>
      <h2 className="font-semibold">Recorded signals to fit</h2>
      {!recording && <p className="text-soft">Choose a recording: a CSV file whose columns are named after signals, such as chamber.level[m].</p>}
      {recording && found?.length === 0 && <p className="text-fail">None of its columns is named after a signal of this loop.</p>}
      <Ticks names={found ?? []} ticked={chosen} setTicked={choose} />
    </>
  );
}

interface ParametersToFitProps {
  readonly known: readonly { readonly name: string; readonly about: string }[];
  readonly chosen: readonly string[];
  readonly choose: (names: readonly string[]) => void;
}

function ParametersToFit({ known, chosen, choose }: ParametersToFitProps) {
  const [wanted, setWanted] = useState('');
  const shown = known.filter((one) => chosen.includes(one.name) || `${one.name} ${one.about}`.toLowerCase().includes(wanted.trim().toLowerCase()));
  return (
    <>
      <h2 className="mt-4 font-semibold">Parameters to fit</h2>
      <p className="text-[12.5px] text-soft">Within the limits that their component declares.</p>
      <input
        value={wanted}
        onChange={(event) => setWanted(event.target.value)}
        placeholder="Find a parameter"
        aria-label="Find a parameter"
        className="mt-1 w-full rounded border border-rule bg-sheet px-2 py-1"
      />
      <div className="mt-1 max-h-72 overflow-y-auto">
        <Ticks names={shown.map((one) => one.name)} ticked={chosen} setTicked={choose} />
      </div>
    </>
  );
}

function KeepSet({ keep }: { readonly keep: (as: string) => void }) {
  const [setAs, setSetAs] = useState('Fitted plant');
  return (
    <div className="mt-5 flex items-center gap-2">
      <label className="flex items-center gap-2">
        Keep as parameter set
        <input value={setAs} onChange={(event) => setSetAs(event.target.value)} className="rounded border border-rule bg-sheet px-2 py-1" />
      </label>
      <button type="button" className="act" disabled={setAs.trim() === ''} onClick={() => keep(setAs)}>
        Keep
      </button>
    </div>
  );
}

function headOf(recording: Recording | undefined, signals: readonly string[], parameters: readonly string[]): string {
  if (!recording) return 'Which recording should the plant be fitted to?';
  if (signals.length === 0) return 'Which of its signals should be fitted?';
  if (parameters.length === 0) return 'Which parameters may change for it?';
  return `${plural(parameters.length, 'parameter')} to fit to ${plural(signals.length, 'signal')}.`;
}

interface RecordingChoiceProps {
  readonly label: string;
  readonly files: readonly SourceFile[];
  /** Paths of recordings in the project. */
  readonly known: readonly string[];
  readonly chosen: Recording | undefined;
  readonly choose: (recording: Recording | undefined) => void;
}

/** A recording of the project, or a file from the disk. */
function RecordingChoice({ label, files, known, chosen, choose }: RecordingChoiceProps) {
  const take = async (file: File | undefined): Promise<void> => {
    if (file) choose({ name: file.name, text: await file.text() });
  };
  return (
    <span className="flex items-center gap-2">
      {known.length > 0 && (
        <Choice
          label={label}
          value={chosen && known.includes(chosen.name) ? chosen.name : ''}
          options={[['', chosen ? chosen.name : 'none'] as const, ...known]}
          choose={(path) => choose(path === '' ? undefined : { name: path, text: files.find((file) => file.path === path)?.text ?? '' })}
        />
      )}
      <label className="act cursor-pointer">
        {known.length > 0 ? 'or a file …' : (chosen?.name ?? `${label} …`)}
        <input
          type="file"
          accept=".csv,text/csv"
          aria-label={`${label} file`}
          className="sr-only"
          onChange={({ target }) => {
            void take(target.files?.[0]);
            // The same file, changed in the meantime, may be taken again.
            target.value = '';
          }}
        />
      </label>
    </span>
  );
}

function Ticks({
  names,
  ticked,
  setTicked,
}: {
  readonly names: readonly string[];
  readonly ticked: readonly string[];
  readonly setTicked: (names: readonly string[]) => void;
}) {
  const toggle = (name: string): void => setTicked(ticked.includes(name) ? ticked.filter((one) => one !== name) : [...ticked, name]);
  return (
    <ul>
      {names.map((one) => (
        <li key={one}>
          <label className="figure flex items-center gap-2 py-0.5">
            <input type="checkbox" checked={ticked.includes(one)} onChange={() => toggle(one)} />
            {one}
          </label>
        </li>
      ))}
    </ul>
  );
}

function Found({ result }: { readonly result: FitResult }) {
  return (
    <>
      <FoundParameters result={result} />
      <FittedSignals result={result} />
      <p className="mt-2 text-[12.5px] text-soft">
        {plural(result.runs, 'run')} were made. 100 % matches every row, 0 % is no better than the mean. The intervals hold when the errors of the
        rows are independent.
      </p>
    </>
  );
}

function FoundParameters({ result }: { readonly result: FitResult }) {
  return (
    <table className="w-full text-right" aria-label="Parameters found">
      <thead className="text-soft">
        <tr>
          <th scope="col" className="text-left font-normal">
            Parameter
          </th>
          <th scope="col" className="font-normal">
            was
          </th>
          <th scope="col" className="font-normal">
            found
          </th>
          <th scope="col" className="w-[300px] pl-4 text-left font-normal">
            95 % interval, within its limits
          </th>
        </tr>
      </thead>
      <tbody>
        {result.parameters.map((one) => (
          <tr key={one.name} className="border-rule border-t">
            <td className="py-1.5 text-left font-semibold">
              {one.name} <span className="font-normal text-soft">{one.unit}</span>
            </td>
            <td className="figure">{figure(one.start)}</td>
            <td className="figure font-bold">{figure(one.value)}</td>
            <td className="pl-4 text-left">
              <Interval of={one} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function FittedSignals({ result }: { readonly result: FitResult }) {
  return (
    <table className="mt-5 w-full text-right" aria-label="Fitted signals">
      <thead className="text-soft">
        <tr>
          {['Signal', 'fit before', 'fit', 'held out', 'error, rms'].map((words, index) => (
            <th key={words} scope="col" className={`font-normal ${index === 0 ? 'text-left' : ''}`}>
              {words}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {result.signals.map((one) => (
          <tr key={one.name} className="border-rule border-t">
            <td className="py-1.5 text-left font-semibold">{one.name}</td>
            <td className="figure">{one.fitBefore.toFixed(1)} %</td>
            <td className="figure font-bold">{one.fit.toFixed(1)} %</td>
            <td className="figure">{one.fitHeldOut === undefined ? '—' : `${one.fitHeldOut.toFixed(1)} %`}</td>
            <td className="figure">
              {figure(one.rms)} {one.unit}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** What was recorded against what the fitted plant does, and what is left between them. */
function Curves({ result }: { readonly result: FitResult }) {
  const [name, setName] = useState('');
  const shown = result.signals.find((one) => one.name === name) ?? result.signals[0];
  const curves = useMemo(() => {
    if (!shown) return { both: [], rest: [] };
    const { time, recorded, simulated } = shown.curve;
    const points = (of: (index: number) => number) => Array.from(time, (x, index) => ({ x, y: of(index) }));
    return {
      both: [
        // The first stands over the others.
        { name: 'fitted', tone: '--s1', points: points((index) => simulated[index] ?? 0) },
        { name: 'recorded', tone: '--s2', isScattered: true, points: points((index) => recorded[index] ?? 0) },
      ],
      rest: [{ name: 'rest', tone: '--s3', isScattered: true, points: points((index) => (recorded[index] ?? 0) - (simulated[index] ?? 0)) }],
    };
  }, [shown]);
  if (!shown) return null;
  return (
    <div className="mt-4">
      <div className="flex items-center gap-5 text-[12.5px]">
        {result.signals.length > 1 && <Choice label="Signal" value={shown.name} options={result.signals.map((one) => one.name)} choose={setName} />}
        <span className="flex items-center gap-1.5">
          <span className="inline-block size-1.5 rounded-full bg-[var(--s2)]" /> recorded
        </span>
        <span className="flex items-center gap-1.5">
          <span className="inline-block h-0.5 w-4 bg-[var(--s1)]" /> fitted
        </span>
      </div>
      <CurveChart label="Recorded and fitted" curves={curves.both} across="s" up={`${shown.name}, ${shown.unit}`} height={200} />
      <CurveChart label="Residual" curves={curves.rest} across="s" up={`residual, ${shown.unit}`} height={120} />
    </div>
  );
}

const [width, height] = [180, 16];

/** Where in its limits a parameter was found, and how surely. */
function Interval({ of: { min, max, value, start, interval } }: { readonly of: FitResult['parameters'][number] }) {
  const x = (at: number): number => 4 + Math.max(0, Math.min(1, (at - min) / (max - min))) * (width - 8);
  return (
    <span className="flex items-center gap-2">
      <svg width={width} height={height} aria-hidden="true">
        <line x1={4} x2={width - 4} y1={8} y2={8} stroke="var(--rule)" strokeWidth={2} />
        <line x1={x(start)} x2={x(start)} y1={4} y2={12} stroke="var(--lack)" strokeDasharray="2 2" />
        {interval && (
          <rect x={x(interval[0])} y={5} width={Math.max(2, x(interval[1]) - x(interval[0]))} height={6} fill="var(--s1)" fillOpacity={0.45} />
        )}
        <line x1={x(value)} x2={x(value)} y1={2} y2={14} stroke="var(--ink)" strokeWidth={1.6} />
      </svg>
      <span className="figure whitespace-nowrap">{interval ? `${figure(interval[0])} … ${figure(interval[1])}` : 'cannot be determined'}</span>
    </span>
  );
}
