'use client';
import { useMemo } from 'react';
import type { Composed } from '@/core/campaign';
import { changeDocument, type DocumentChange } from '@/core/yaml';
import type { useDrafts } from '../../drafts/useDrafts';
import { useAsked } from '../../hooks/useAsked';

export interface Composer {
  readonly view: Composed | undefined;
  /** Writes values into the document, as one step of the history. */
  change(...changes: readonly DocumentChange[]): void;
}

/** A campaign document with what can be said of it, and changes to it: form and text are two views of one draft. */
export function useComposer(drafts: ReturnType<typeof useDrafts>, file: string | undefined): Composer {
  const { files } = drafts;
  const ask = useMemo(() => (file === undefined ? undefined : { files, file }), [files, file]);
  const { found } = useAsked('compose', ask);
  const change = (...changes: readonly DocumentChange[]): void => {
    if (file === undefined) return;
    const text = changeDocument(drafts.text(file), changes);
    if (text !== undefined) drafts.edit(file, text);
  };
  return { view: found?.file === file ? found : undefined, change };
}
