'use client';
import { useState } from 'react';
import { plural } from '@/core/wording';

export interface GatherLineProps {
  readonly count: number;
  /** Makes the component; a text says why it cannot be made. */
  readonly gather: (name: string) => Promise<string | undefined>;
  readonly close: () => void;
}

/** Above the drawing, while parts are chosen: a name for the component they are to become. */
export function GatherLine({ count, gather, close }: GatherLineProps) {
  const [name, setName] = useState('');
  const [refused, setRefused] = useState<string>();
  return (
    <form
      className="mb-2 flex flex-wrap items-center gap-2 border-rule border-y bg-tint px-3 py-1.5"
      aria-label="Gather"
      onSubmit={(event) => {
        event.preventDefault();
        void gather(name).then(setRefused);
      }}
      onKeyDown={(event) => event.key === 'Escape' && close()}
    >
      <label className="flex items-center gap-2">
        <span>{plural(count, 'part')} become the component</span>
        <input
          className="figure w-44 rounded border border-rule bg-sheet px-2 py-1"
          placeholder="its name"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <button type="submit" className="act" disabled={name === ''}>
        Gather
      </button>
      <button type="button" className="act" onClick={close}>
        Choose none
      </button>
      {refused && (
        <p role="alert" className="w-full text-[13px] text-fail">
          {refused}
        </p>
      )}
    </form>
  );
}
