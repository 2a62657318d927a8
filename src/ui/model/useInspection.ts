'use client';
import { useEffect, useRef, useState } from 'react';
import type { SourceFile } from '@/core/documents';
import type { ModelView } from '@/core/picture';
import { askEngine } from '../engine/engine';

export interface Inspection {
  readonly view: ModelView;
  /** The text of the item cannot be read just now; picture and face are those of the last text that could. */
  readonly stale: boolean;
  readonly problem: string | undefined;
}

/**
 * The model as the engine reads the documents, anew after each edit. The last answer stays until the next is there, and an item whose text
 * is broken for the moment stays on the screen, so that one can go on typing.
 * @param first what the server has read, to begin with
 */
export function useInspection(files: readonly SourceFile[], at: string, first: ModelView): Inspection {
  const [{ view, stale }, setShown] = useState<{ view: ModelView; stale: boolean }>({ view: first, stale: false });
  const [problem, setProblem] = useState<string>();
  const asked = useRef(0);
  useEffect(() => {
    asked.current += 1;
    const mine = asked.current;
    askEngine('inspect', { files, at }).then(
      (found) => {
        if (mine !== asked.current) return;
        setShown((before) => following(before.view, found, at));
        setProblem(undefined);
      },
      (reason: unknown) => mine === asked.current && setProblem(reason instanceof Error ? reason.message : String(reason)),
    );
  }, [files, at]);
  return { view, stale, problem };
}

function following(before: ModelView, found: ModelView, wanted: string): { view: ModelView; stale: boolean } {
  const [last, now] = [itemOf(before), itemOf(found)];
  const unreadable = last !== undefined && last.kind !== 'document' && now?.kind === 'document' && now.file === last.file;
  const gone = last !== undefined && !found.outline.some((item) => item.id === last.id) && (wanted === '' || wanted === last.id);
  if (gone || unreadable) return { view: { ...before, faults: found.faults }, stale: true };
  // Most edits leave the picture as it is, and a picture that is the same is not laid out again.
  const isSame = JSON.stringify(before.picture) === JSON.stringify(found.picture);
  return { view: isSame ? { ...found, picture: before.picture } : found, stale: false };
}

function itemOf(view: ModelView): ModelView['outline'][number] | undefined {
  return view.outline.find((item) => item.id === view.at);
}
