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
  /** Writes values into the document. @param movement of which it is a part: all parts make one step of the history */
  change(changes: readonly DocumentChange[], movement?: number): void;
}

/** A case with its run, anew after each change: lanes, script and text are views of one draft. */
export function useCase(drafts: ReturnType<typeof useDrafts>, file: string | undefined): CaseInHand {
  const { files } = drafts;
  const ask = useMemo(() => (file === undefined ? undefined : { files, file }), [files, file]);
  const { found, problem, waiting } = useNewest('edit case', ask);
  const change = (changes: readonly DocumentChange[], movement?: number): void => {
    if (file === undefined) return;
    // At once, and not behind a run that the engine is at: what is dragged has to follow the hand.
    const text = changeDocument(drafts.text(file), changes);
    if (text === undefined) return;
    if (movement === undefined) drafts.edit(file, text);
    else drafts.drag(file, text, movement);
  };
  return { found, problem, waiting, change };
}
