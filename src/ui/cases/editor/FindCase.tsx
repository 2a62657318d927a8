'use client';
import { useEffect, useState } from 'react';
import type { LeftGoal } from '@/core/design';
import type { SourceFile } from '@/core/documents';
import type { Attempted } from '@/core/project';
import { plural } from '@/core/wording';
import { useFinder } from './useFinder';

interface FindCaseProps {
  /** What the cases are for: to trigger a requirement, to reach all of its goals, to break one, or to reach what the cases of a loop do not, all of it or one part. */
  readonly aim:
    | { readonly requirement: string }
    | { readonly family: string }
    | { readonly broken: string }
    | { readonly loop: string; readonly part?: string };
  readonly words: string;
  readonly files: readonly SourceFile[];
  /** Takes over what was found. */
  readonly take: (found: readonly SourceFile[]) => void;
  /** Shows elsewhere what no run has reached yet, while it is looked for. */
  readonly tell?: (left: readonly LeftGoal[]) => void;
  /** Keeps what was tried to be broken in vain. */
  readonly keep?: (attempts: readonly Attempted[]) => void;
}

/** Goals that are told at most. */
const mostTold = 8;

/** Runs without anything found after which something else is worth trying. */
const manyRuns = 100;

/** What no run has reached yet, with what the nearest was short of. */
function Left({ left }: { readonly left: readonly LeftGoal[] }) {
  return (
    <ul aria-label="Not reached yet" className="w-full text-[13px]">
      {left.slice(0, mostTold).map(({ words, nearest }) => (
        <li key={words} className="border-rule border-t py-1">
          {words}
          {nearest !== undefined && <span className="block text-soft">{nearest}</span>}
        </li>
      ))}
      {left.length > mostTold && <li className="border-rule border-t py-1 text-soft">and {left.length - mostTold} more</li>}
    </ul>
  );
}

/** Looks for cases, and tells how far it is. */
export function FindCase({ aim, words, files, take, tell, keep }: FindCaseProps) {
  const [withWires, setWithWires] = useState(false);
  const [withPlant, setWithPlant] = useState(false);
  // Who looks again looks elsewhere.
  const [seed, setSeed] = useState(0);
  const { answer, isLooking, problem, begin, end } = useFinder(take, keep);
  useEffect(() => tell?.(isLooking ? (answer?.left ?? []) : []), [tell, answer, isLooking]);
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
      </p>
      {'family' in aim && !isLooking && answer && answer.left.length === 0 && answer.documents.length === 0 && answer.tried === undefined && (
        <p className="w-full text-[13px] text-soft">No run came with less margin than the cases there are.</p>
      )}
      {isLooking && answer && !withWires && answer.runs >= manyRuns && answer.left.length === answer.goals && (
        <p className="w-full text-[13px] text-soft">
          Nothing yet. Some things happen only when a sensor or a wire fails: give up, and try with faults on wires.
        </p>
      )}
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
      {isLooking && !tell && answer && answer.left.length > 0 && <Left left={answer.left} />}
    </div>
  );
}
