'use client';
import { useState } from 'react';
import type { Slip } from '@/core/picture';

interface FindPartProps {
  readonly slips: readonly Slip[];
  /** Shows the slip of this id. */
  readonly show: (slip: string) => void;
}

interface Shown {
  readonly of: string;
  readonly index: number;
  readonly count: number;
}

/** A large drawing is walked by names: the next part that has the text in its name comes to the middle of the screen. */
export function FindPart({ slips, show }: FindPartProps) {
  const [text, setText] = useState('');
  const [shown, setShown] = useState<Shown>();
  const next = (): void => {
    const wanted = text.trim().toLowerCase();
    if (wanted === '') return;
    const found = slips.filter(({ title }) => title.toLowerCase().includes(wanted));
    // The part of exactly this name first.
    found.sort((a, b) => Number(b.title.toLowerCase() === wanted) - Number(a.title.toLowerCase() === wanted));
    const index = shown?.of === wanted && found.length > 0 ? (shown.index + 1) % found.length : 0;
    setShown({ of: wanted, index, count: found.length });
    const slip = found[index];
    if (slip) show(slip.id);
  };
  return (
    <search className="sticky top-0 left-0 z-10 mb-2 block w-fit bg-ground py-1 pr-3">
      <form
        className="flex items-center gap-3 text-[13px]"
        onSubmit={(event) => {
          event.preventDefault();
          next();
        }}
      >
        <input
          type="search"
          aria-label="Find a part"
          placeholder="Find a part"
          className="figure w-48 rounded border border-rule bg-sheet px-2 py-1"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <span role="status" className="text-soft">
          {shown && wordsFor(shown)}
        </span>
      </form>
    </search>
  );
}

function wordsFor({ of, index, count }: Shown): string {
  if (count === 0) return `No part has "${of}" in its name.`;
  return count === 1 ? 'The only match.' : `${index + 1} of ${count}; Enter shows the next.`;
}
