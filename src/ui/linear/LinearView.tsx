'use client';
import { useMemo, useState } from 'react';
import type { LinearAnswer, TransferFunction } from '@/core/linear';
import { figure, timeWords } from '@/core/wording';
import { useAddress } from '../hooks/useAddress';
import { useAsked } from '../hooks/useAsked';
import { type Revision, useFilesOf } from '../hooks/useRevision';
import { Choice } from '../parts/Choice';
import { NumberField } from '../parts/NumberField';
import { CurveChart } from '../plot/CurveChart';

/** The plant about a point: how fast it answers, how far a loop around it is from instability, and its transfer function, sampled as well. */
export function LinearView({ newest }: { readonly newest: Revision }) {
  const files = useFilesOf(newest);
  const [name, setName] = useAddress('case');
  const [at, setAt] = useAddress('at');
  const [drive, setDrive] = useAddress('drive');
  const [signal, setSignal] = useAddress('signal');
  const [steady, setSteady] = useState(true);
  const [period, setPeriod] = useState('0.1');
  const ask = useMemo(() => {
    const sampling = Number(period);
    return {
      files,
      ...(name ? { case: name } : {}),
      question: {
        at: Math.max(0, Number(at ?? 0) || 0),
        steady,
        ...(drive ? { drive } : {}),
        ...(signal ? { signal } : {}),
        ...(sampling > 0 ? { period: sampling } : {}),
      },
    };
  }, [files, name, at, drive, signal, steady, period]);
  const { found, problem } = useAsked('linear', ask);
  const answer = found?.answer;
  return (
    <main className="h-full overflow-y-auto px-6 pt-5 pb-12">
      <h1 className="headline">{problem ?? answer?.words ?? 'Linearising the plant …'}</h1>
      {found && answer && (
        <>
          <div className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2">
            <Choice
              label="Case"
              value={found.of}
              options={found.cases}
              choose={(next) => {
                setDrive(undefined);
                setSignal(undefined);
                setName(next);
              }}
            />
            <NumberField label="at" unit="s" value={at ?? '0'} least={0} most={found.stop} set={setAt} />
            <label className="flex items-center gap-1.5">
              <input type="checkbox" checked={steady} onChange={(event) => setSteady(event.target.checked)} />
              go to the equilibrium near there
            </label>
            <Choice label="From" value={answer.drive} options={answer.drives} choose={setDrive} />
            <Choice label="to" value={answer.signal} options={answer.signals} choose={setSignal} />
          </div>
          <div className="mt-4 grid grid-cols-[1fr_380px] gap-8 max-md:grid-cols-1 border-ink border-t pt-4">
            <Charts answer={answer} />
            <Figures answer={answer} period={period} setPeriod={setPeriod} />
          </div>
        </>
      )}
    </main>
  );
}

function Charts({ answer }: { readonly answer: LinearAnswer }) {
  const unit = `${answer.signalUnit || '1'} per ${answer.driveUnit || '1'}`;
  const curves = useMemo(() => {
    const seen = answer.frequency.filter((point) => point.gain > 1e-15);
    const omegas = [answer.frequency[0]?.omega ?? 0.1, answer.frequency.at(-1)?.omega ?? 10];
    const line = (y: number) => ({ name: 'border', tone: '--lack', isDashed: true, points: omegas.map((x) => ({ x, y })) });
    return {
      gain: [{ name: 'gain', tone: '--s1', points: seen.map(({ omega, gain }) => ({ x: omega, y: gain })) }, line(1)],
      phase: [{ name: 'phase', tone: '--s2', points: seen.map(({ omega, phase }) => ({ x: omega, y: phase })) }, line(-180)],
      step: [{ name: 'answer', tone: '--s3', points: answer.step.time.map((x, index) => ({ x, y: answer.step.value[index] ?? 0 })) }],
    };
  }, [answer]);
  return (
    <div>
      <h2 className="font-semibold">
        {answer.signal} over {answer.drive}
      </h2>
      <CurveChart label="Gain over frequency" curves={curves.gain} across="rad/s" up={`gain, ${unit}`} logAcross logUp height={190} />
      <CurveChart label="Phase over frequency" curves={curves.phase} across="rad/s" up="phase, degrees" logAcross height={170} />
      <h2 className="mt-2 font-semibold">Step response {answer.driveUnit}</h2>
      <CurveChart label="Step response" curves={curves.step} across="s" up={answer.signalUnit || 'answer'} height={180} />
    </div>
  );
}

function Figures({
  answer,
  period,
  setPeriod,
}: {
  readonly answer: LinearAnswer;
  readonly period: string;
  readonly setPeriod: (text: string) => void;
}) {
  return (
    <div className="text-[13px]">
      <Margins of={answer.margins} />
      <Poles answer={answer} />
      <h2 className="mt-3 font-semibold text-[14px]">Transfer function</h2>
      <Fraction of={answer.transfer} variable="s" />
      <label className="mt-2 flex items-center gap-2">
        sampled every
        <input
          value={period}
          onChange={(event) => setPeriod(event.target.value)}
          aria-label="Period"
          className="figure w-16 rounded border border-rule bg-sheet px-1.5 py-0.5 text-right"
        />
        s
      </label>
      {answer.sampled && (
        <>
          <p className="mt-1 text-soft">input held</p>
          <Fraction of={answer.sampled.hold} variable="z" />
          <p className="mt-1 text-soft">trapezoidal rule</p>
          <Fraction of={answer.sampled.tustin} variable="z" />
        </>
      )}
      <h2 className="mt-3 font-semibold text-[14px]">{answer.isSteady ? 'Equilibrium' : 'The point'}</h2>
      <ul className="figure">
        {answer.point.map((one) => (
          <li key={one.state} className="flex justify-between gap-3 border-rule border-t py-0.5">
            <span className="truncate">{one.state}</span>
            <span>
              {figure(one.value)} {one.unit}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}

function Margins({ of: { gain, phase } }: { readonly of: LinearAnswer['margins'] }) {
  return (
    <>
      <h2 className="font-semibold text-[14px]">If the loop is closed here with negative feedback</h2>
      <p>
        {gain ? (
          <>
            Gain may {gain.factor >= 1 ? 'grow' : 'shrink'} by <b className="figure">{figure(gain.factor)}</b> (
            {(20 * Math.log10(gain.factor)).toFixed(1)} dB) at {figure(gain.omega)} rad/s.
          </>
        ) : (
          'The phase never reaches −180°: no gain margin.'
        )}
      </p>
      <p>
        {phase ? (
          <>
            Phase margin <b className="figure">{phase.degrees.toFixed(1)}°</b> at {figure(phase.omega)} rad/s; a delay of {timeWords(phase.delay)}{' '}
            would use it up.
          </>
        ) : (
          'The gain never crosses 1: no phase margin.'
        )}
      </p>
    </>
  );
}

function Poles({ answer }: { readonly answer: LinearAnswer }) {
  return (
    <>
      <h2 className="mt-3 font-semibold text-[14px]">Poles of the plant</h2>
      <table className="figure mt-1 w-full text-right">
        <thead className="text-soft">
          <tr>
            <th scope="col" className="text-left font-normal">
              1/s
            </th>
            <th scope="col" className="font-normal">
              rad/s
            </th>
            <th scope="col" className="font-normal">
              damping
            </th>
          </tr>
        </thead>
        <tbody>
          {polesOnce(answer).map(({ key, words, frequency, damping, isUnstable }) => (
            <tr key={key} className={isUnstable ? 'font-bold text-fail' : ''}>
              <td className="text-left">{words}</td>
              <td>{figure(frequency)}</td>
              <td>{figure(Number(damping.toFixed(4)))}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

/** A pair of complex poles in one line, equal ones told by their number. */
function polesOnce({ poles }: LinearAnswer): { key: string; words: string; frequency: number; damping: number; isUnstable: boolean }[] {
  const lines = new Map<string, { count: number; frequency: number; damping: number; isUnstable: boolean }>();
  for (const { re, im, frequency, damping } of poles) {
    if (im < 0) continue;
    const words = im === 0 ? figure(re) : `${figure(re)} ± ${figure(im)} j`;
    const before = lines.get(words);
    lines.set(words, { count: (before?.count ?? 0) + 1, frequency, damping, isUnstable: re > 0 });
  }
  return [...lines].map(([words, { count, ...rest }]) => ({ key: words, words: count > 1 ? `${words}  ×${count}` : words, ...rest }));
}

function Fraction({ of, variable }: { readonly of: TransferFunction; readonly variable: string }) {
  return (
    <div className="figure w-fit max-w-full overflow-x-auto">
      <div className="border-ink border-b px-1 pb-0.5 text-center">
        <Polynomial list={of.numerator} variable={variable} />
      </div>
      <div className="px-1 pt-0.5 text-center">
        <Polynomial list={of.denominator} variable={variable} />
      </div>
    </div>
  );
}

function Polynomial({ list, variable }: { readonly list: readonly number[]; readonly variable: string }) {
  const terms = list.flatMap((value, index) => (value === 0 ? [] : [{ value, power: list.length - 1 - index }]));
  if (terms.length === 0) return <>0</>;
  return terms.map(({ value, power }, index) => (
    <span key={power} className="whitespace-nowrap">
      {index > 0 ? (value < 0 ? ' − ' : ' + ') : value < 0 ? '−' : ''}
      {power > 0 && Math.abs(value) === 1 ? '' : `${figure(Math.abs(value))} `}
      {power > 0 && variable}
      {power > 1 && <sup>{power}</sup>}
    </span>
  ));
}
