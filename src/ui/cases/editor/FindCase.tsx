'use client';
import { useState } from 'react';
import type { SourceFile } from '@/core/documents';
import { plural } from '@/core/wording';
import { useFinder } from './useFinder';

interface FindCaseProps {
  /** What the cases are for: a requirement, or what the cases of a loop do not reach. */
  readonly aim: { readonly requirement: string } | { readonly loop: string };
  readonly words: string;
  readonly files: readonly SourceFile[];
  /** Takes over what was found. */
  readonly take: (found: readonly SourceFile[]) => void;
}

/** Looks for cases, and tells how far it is. */
export function FindCase({ aim, words, files, take }: FindCaseProps) {
  const [withWires, setWithWires] = useState(false);
  const { answer, isLooking, problem, begin, end } = useFinder(take);
  return (
    <div className="mt-4 flex flex-wrap items-center gap-3">
      <button type="button" className="act act-first" disabled={isLooking} onClick={() => begin({ files, seed: 0, withWires, ...aim })}>
        {words}
      </button>
      <label className="flex items-center gap-1.5 text-soft">
        <input type="checkbox" checked={withWires} onChange={(event) => setWithWires(event.target.checked)} />
        with faults on wires
      </label>
      <p role="status" className="text-soft">
        {problem}
        {isLooking && !answer && 'Looking …'}
        {answer && `${plural(answer.runs, 'run')}, ${answer.goals - answer.left.length} of ${plural(answer.goals, 'goal')} reached.`}
        {answer && answer.left.length === 1 && isLooking && ` Not yet: ${answer.left[0]}.`}
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
