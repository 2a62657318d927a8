'use client';
import { useState } from 'react';
import type { useDrafts } from '../../drafts/useDrafts';
import { type CaseFile, copyOf } from './caseFiles';

interface CaseActionsProps {
  readonly drafts: ReturnType<typeof useDrafts>;
  readonly at: CaseFile | undefined;
  readonly choose: (name: string | undefined) => void;
  readonly begin: () => void;
  readonly rename: (name: string) => void;
}

/** Begins, copies, renames and takes out cases. */
export function CaseActions({ drafts, at, choose, begin, rename }: CaseActionsProps) {
  const [naming, setNaming] = useState(false);
  const take = (how: 'copy' | 'like') => (): void => {
    if (!at) return;
    const made = copyOf(drafts.files, at, how);
    drafts.edit(made.path, made.text);
    choose(made.name);
  };
  const remove = (): void => {
    if (!at) return;
    drafts.edit(at.path, '');
    choose(undefined);
  };
  return (
    <div className="ml-auto flex flex-wrap gap-2">
      <button type="button" className="act" onClick={begin}>
        New case
      </button>
      {at && (
        <>
          <button type="button" className="act" onClick={take('copy')}>
            Copy
          </button>
          <button type="button" className="act" onClick={take('like')}>
            Make one like it
          </button>
          {naming ? (
            <input
              // biome-ignore lint/a11y/noAutofocus: it stands in place of the button that was pressed
              autoFocus
              aria-label="New name"
              defaultValue={at.name}
              className="w-52 rounded border border-rule bg-sheet px-2 py-1"
              onBlur={() => setNaming(false)}
              onKeyDown={(event) => {
                const next = event.currentTarget.value.trim();
                if (event.key === 'Escape') setNaming(false);
                if (event.key !== 'Enter' || next === '') return;
                rename(next);
                choose(next);
                setNaming(false);
              }}
            />
          ) : (
            <button type="button" className="act" onClick={() => setNaming(true)}>
              Rename
            </button>
          )}
          <button type="button" className="act" onClick={remove}>
            Delete
          </button>
        </>
      )}
    </div>
  );
}
