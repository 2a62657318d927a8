'use client';
import { useRef, useState } from 'react';
import type { SourceFile } from '@/core/documents';
import { plural } from '@/core/wording';
import { askEngine } from '../../engine/engine';

interface FindCaseProps {
  readonly requirement: string;
  readonly files: readonly SourceFile[];
  /** Takes over what was found. */
  readonly take: (found: readonly SourceFile[]) => void;
}

/** Looks for a case that triggers a requirement, and tells how far it is. */
export function FindCase({ requirement, files, take }: FindCaseProps) {
  const [told, setTold] = useState<string>();
  const [withWires, setWithWires] = useState(false);
  const [isLooking, setLooking] = useState(false);
  /** Whether the search that goes on is still wanted. */
  const wanted = useRef(false);
  const find = async (): Promise<void> => {
    wanted.current = true;
    setLooking(true);
    setTold('Looking …');
    try {
      let answer = await askEngine('find case', { begin: { files, requirement, seed: 0, withWires } });
      while (wanted.current && answer.documents.length === 0) {
        setTold(`${plural(answer.runs, 'run')}; not yet: ${answer.left.join(', ')}.`);
        answer = await askEngine('find case', {});
      }
      if (answer.documents.length > 0) take(answer.documents);
      else setTold(`Given up after ${plural(answer.runs, 'run')}.`);
    } catch (problem) {
      setTold(problem instanceof Error ? problem.message : String(problem));
    }
    setLooking(false);
  };
  return (
    <div className="mt-4 flex flex-wrap items-center gap-3">
      <button type="button" className="act act-first" disabled={isLooking} onClick={() => void find()}>
        Find a case for {requirement}
      </button>
      <label className="flex items-center gap-1.5 text-soft">
        <input type="checkbox" checked={withWires} onChange={(event) => setWithWires(event.target.checked)} />
        with faults on wires
      </label>
      {told !== undefined && (
        <p role="status" className="text-soft">
          {told}{' '}
          {isLooking && (
            <button
              type="button"
              className="underline"
              onClick={() => {
                wanted.current = false;
              }}
            >
              Give up
            </button>
          )}
        </p>
      )}
    </div>
  );
}
