'use client';
import { useMemo } from 'react';
import { changeDocument, type DocumentChange } from '@/core/yaml';
import type { useDrafts } from '../../drafts/useDrafts';
import type { EngineTalk } from '../../engine/messages';
import { useNewest } from '../../hooks/useNewest';

export interface CaseInHand {
  readonly found: EngineTalk['edit case']['answer'] | undefined;
  readonly problem: string | undefined;
  readonly waiting: boolean;
  /** Writes values into the document. @param goesOn part of a movement that is still going on: it makes one step of the history */
  change(changes: readonly DocumentChange[], goesOn?: boolean): void;
}

/** A case with its run, anew after each change: lanes, script and text are views of one draft. */
export function useCase(drafts: ReturnType<typeof useDrafts>, file: string | undefined): CaseInHand {
  const { files } = drafts;
  const ask = useMemo(() => (file === undefined ? undefined : { files, file }), [files, file]);
  const { found, problem, waiting } = useNewest('edit case', ask);
  const change = (changes: readonly DocumentChange[], goesOn = false): void => {
    if (file === undefined) return;
    // At once, and not behind a run that the engine is at: what is dragged has to follow the hand.
    const text = changeDocument(drafts.text(file), changes);
    if (text !== undefined) drafts.edit(file, text, goesOn);
  };
  return { found, problem, waiting, change };
}
