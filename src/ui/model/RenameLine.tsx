'use client';
import { useState } from 'react';

export interface RenameLineProps {
  readonly name: string;
  /** Does it in all documents; a text says why it cannot be done. */
  readonly rename: (to: string) => Promise<string | undefined>;
  readonly close: () => void;
}

/** Above the text: a new name for what the cursor stands in. */
export function RenameLine({ name, rename, close }: RenameLineProps) {
  const [to, setTo] = useState(name);
  const [refused, setRefused] = useState<string>();
  return (
    <form
      className="flex flex-wrap items-center gap-2 border-rule border-b bg-tint px-4 py-1.5"
      aria-label="Rename"
      onSubmit={(event) => {
        event.preventDefault();
        void rename(to).then(setRefused);
      }}
      onKeyDown={(event) => event.key === 'Escape' && close()}
    >
      <label className="flex items-center gap-2 text-[13px]">
        <span>
          <b className="figure">{name}</b> becomes
        </span>
        <input
          className="figure w-44 rounded border border-rule bg-sheet px-2 py-1"
          // biome-ignore lint/a11y/noAutofocus: the line opens because somebody asked for it
          autoFocus
          value={to}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setTo(event.target.value)}
        />
      </label>
      <button type="submit" className="act" disabled={to === name || to === ''}>
        Rename everywhere
      </button>
      <button type="button" className="act" onClick={close}>
        Leave it
      </button>
      {refused && (
        <p role="alert" className="w-full text-[12.5px] text-fail">
          {refused}
        </p>
      )}
    </form>
  );
}
