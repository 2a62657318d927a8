'use client';
import { useEffect, useRef, useState } from 'react';
import { timeWords } from '@/core/wording';
import type { DeskLink } from './DeskLink';

interface LookoutProps {
  readonly link: DeskLink;
  readonly example: string;
  /** The instant (s) that the lanes show in place of the last seconds. */
  readonly at: number | undefined;
  readonly look: (at: number | undefined) => void;
}

/** Looks out for a condition, and brings the lanes to the instants at which it came true. */
export function Lookout({ link, example, at, look }: LookoutProps) {
  const [text, setText] = useState('');
  const [caught, setCaught] = useState<readonly number[]>([]);
  const [problem, setProblem] = useState('');
  const asked = useRef('');
  useEffect(
    () =>
      link.hearAll((told) => {
        if (told.k !== 'caught') return;
        setCaught(told.at);
        setProblem(told.problem);
      }),
    [link],
  );
  const find = (): void => {
    if (asked.current === text) return;
    asked.current = text;
    link.tell({ k: 'catch', text });
    look(undefined);
  };
  return (
    <form
      className="flex flex-wrap items-center gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        find();
      }}
    >
      <label className="flex items-center gap-1.5">
        catch when
        <input
          value={text}
          onChange={(event) => setText(event.target.value)}
          onBlur={find}
          placeholder={example}
          aria-invalid={problem !== ''}
          className={`figure w-44 rounded border bg-sheet px-1.5 py-0.5 text-ink ${problem ? 'border-fail' : 'border-rule'}`}
        />
      </label>
      {caught.length > 0 && <Caught caught={caught} at={at} look={look} />}
      {problem && (
        <span role="alert" className="w-full text-fail">
          {problem}
        </span>
      )}
    </form>
  );
}

function Caught({ caught, at, look }: Pick<LookoutProps, 'at' | 'look'> & { readonly caught: readonly number[] }) {
  const index = at === undefined ? caught.length : caught.indexOf(at);
  const go = (next: number): void => look(next < caught.length ? caught[next] : undefined);
  return (
    <>
      <button type="button" className="chip" aria-label="the one before" disabled={index <= 0} onClick={() => go(index - 1)}>
        ‹
      </button>
      <output aria-label="Caught" className="figure text-ink">
        {at === undefined ? `${caught.length} caught` : `${index + 1} of ${caught.length}, at ${timeWords(at)}`}
      </output>
      {at !== undefined && (
        <>
          <button type="button" className="chip" aria-label="the next one" disabled={index + 1 >= caught.length} onClick={() => go(index + 1)}>
            ›
          </button>
          <button type="button" className="chip" onClick={() => look(undefined)}>
            follow again
          </button>
        </>
      )}
    </>
  );
}
