'use client';
import { useState } from 'react';
import type { SourceFile } from '@/core/documents';
import { plural } from '@/core/wording';
import { useFinder } from './useFinder';

interface FindCaseProps {
  /** What the cases are for: to trigger a requirement, to break one, or to reach what the cases of a loop do not. */
  readonly aim: { readonly requirement: string } | { readonly broken: string } | { readonly loop: string };
  readonly words: string;
  readonly files: readonly SourceFile[];
  /** Takes over what was found. */
  readonly take: (found: readonly SourceFile[]) => void;
}

/** Looks for cases, and tells how far it is. */
export function FindCase({ aim, words, files, take }: FindCaseProps) {
  const [withWires, setWithWires] = useState(false);
  const [withPlant, setWithPlant] = useState(false);
  // Who looks again looks elsewhere.
  const [seed, setSeed] = useState(0);
  const { answer, isLooking, problem, begin, end } = useFinder(take);
  const start = (): void => {
    setSeed(seed + 1);
    begin({ files, seed, withWires, ...('broken' in aim ? { ...aim, withPlant } : aim) });
  };
  return (
    <div className="mt-4 flex flex-wrap items-center gap-3">
      <button type="button" className="act act-first" disabled={isLooking} onClick={start}>
        {words}
      </button>
      <label className="flex items-center gap-1.5 text-soft">
        <input type="checkbox" checked={withWires} onChange={(event) => setWithWires(event.target.checked)} />
        with faults on wires
      </label>
      {'broken' in aim && (
        <label className="flex items-center gap-1.5 text-soft">
          <input type="checkbox" checked={withPlant} onChange={(event) => setWithPlant(event.target.checked)} />
          with the plant’s parameters, between their limits
        </label>
      )}
      <p role="status" className="text-soft">
        {problem}
        {isLooking && !answer && 'Looking …'}
        {answer &&
          `${plural(answer.runs, 'run')}: ${answer.tried ?? `${answer.goals - answer.left.length} of ${plural(answer.goals, 'goal')} reached`}.`}
        {answer && answer.left.length === 1 && answer.tried === undefined && isLooking && ` Not yet: ${answer.left[0]}.`}
      </p>
      {isLooking && answer && answer.left.length < answer.goals && (
        <button type="button" className="act" onClick={() => end('take')}>
          Take what was found
        </button>
      )}
      {isLooking && (
        <button type="button" className="act" onClick={() => end('give up')}>
          Give up
        </button>
      )}
    </div>
  );
}
