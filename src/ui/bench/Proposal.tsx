'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { benchDocument } from '@/core/bench';
import type { ProposedBench } from '@/core/project';
import type { RawBench } from '@/core/shapes';
import { saveRevision } from '../drafts/saveRevision';

interface ProposalProps {
  readonly slug: string;
  readonly revision: number;
  readonly of: ProposedBench;
}

/** Ends of a range as they are written. */
interface Range {
  readonly low: string;
  readonly high: string;
}
const unknown: Range = { low: '', high: '' };

/** A loop without a bench: a sheet is there to be taken, once every measured channel has a range. */
export function Proposal({ slug, revision, of }: ProposalProps) {
  const [problem, setProblem] = useState('');
  const [ranges, setRanges] = useState<Readonly<Record<string, Range>>>({});
  const router = useRouter();
  const rangeOf = (name: string): Range => ranges[name] ?? unknown;
  const isReady = of.unranged.every(({ name }) => isRange(rangeOf(name)));
  const sheet = withRanges(of, ranges);
  const take = async (): Promise<void> => {
    const saved = await saveRevision(slug, revision, [benchDocument(sheet)]);
    if (typeof saved === 'string') setProblem(saved);
    else router.refresh();
  };
  return (
    <>
      <h1 className="headline">{of.loop} has no bench yet.</h1>
      <p className="mt-2 max-w-[70ch]">
        A sheet that wires {Object.keys(of.sheet.inputs).length} inputs and {Object.keys(of.sheet.outputs).length} outputs of its controller is ready,
        with the ranges that their faces declare. It uses a stand-in on this machine; a controller of yours takes its place by its address.
      </p>
      {of.unranged.length > 0 && (
        <fieldset className="mt-3 border-lack border-l-[3px] bg-lack-tint px-3 py-2">
          <legend className="sr-only">Ranges</legend>
          <p className="mb-1">No range is declared for these. What is the least and the greatest value that goes over the wire?</p>
          {of.unranged.map(({ name, unit }) => (
            <p key={name} className="flex items-center gap-2 py-0.5">
              <span className="w-56">{name}</span>
              {(['low', 'high'] as const).map((end) => (
                <input
                  key={end}
                  aria-label={`${name}, ${end === 'low' ? 'least' : 'greatest'}`}
                  type="number"
                  step="any"
                  value={rangeOf(name)[end]}
                  onChange={(event) => setRanges({ ...ranges, [name]: { ...rangeOf(name), [end]: event.target.value } })}
                  className="figure w-24 rounded border border-rule bg-sheet px-1.5 py-0.5 text-right"
                />
              ))}
              {unit}
            </p>
          ))}
        </fieldset>
      )}
      {problem && (
        <p role="alert" className="mt-3 border-fail border-l-[3px] bg-fail-tint px-3 py-1.5">
          {problem}
        </p>
      )}
      <button type="button" className="act act-first mt-3" disabled={!isReady} onClick={() => void take()}>
        Take this sheet
      </button>
      <pre className="figure mt-4 max-w-[760px] whitespace-pre-wrap border-rule border-l-2 pl-3">{benchDocument(sheet).text}</pre>
    </>
  );
}

function isRange({ low, high }: Range): boolean {
  return low !== '' && high !== '' && Number(high) > Number(low);
}

/** The sheet with the ranges that were given. */
function withRanges({ sheet, unranged }: ProposedBench, ranges: Readonly<Record<string, Range>>): RawBench {
  const filled = (direction: 'inputs' | 'outputs'): RawBench['inputs'] =>
    Object.fromEntries(
      Object.entries(sheet[direction]).map(([name, channel]) => {
        const range = unranged.some((one) => one.direction === direction && one.name === name) ? ranges[name] : undefined;
        return [name, range && isRange(range) ? { ...channel, low: Number(range.low), high: Number(range.high) } : channel];
      }),
    );
  return { ...sheet, inputs: filled('inputs'), outputs: filled('outputs') };
}
