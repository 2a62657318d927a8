'use client';
import { useEffect, useRef, useState } from 'react';
import type { ModelView, SourceFile } from '@/core';
import { askEngine } from '../engine/engine';

export interface Inspection {
  readonly view: ModelView | undefined;
  /** The text of the item cannot be read just now; picture and face are those of the last text that could. */
  readonly stale: boolean;
  readonly problem: string | undefined;
}

/**
 * The model as the engine reads the documents, anew after each edit. The last answer stays until the next is there, and an item whose text
 * is broken for the moment stays on the screen, so that one can go on typing.
 */
export function useInspection(files: readonly SourceFile[], at: string): Inspection {
  const [{ view, stale }, setShown] = useState<{ view: ModelView | undefined; stale: boolean }>({ view: undefined, stale: false });
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

function following(before: ModelView | undefined, found: ModelView, wanted: string): { view: ModelView; stale: boolean } {
  const [last, now] = [before && itemOf(before), itemOf(found)];
  const unreadable = last !== undefined && last.kind !== 'document' && now?.kind === 'document' && now.file === last.file;
  const gone = last !== undefined && !found.outline.some((item) => item.id === last.id) && (wanted === '' || wanted === last.id);
  return before && (gone || unreadable) ? { view: { ...before, faults: found.faults }, stale: true } : { view: found, stale: false };
}

function itemOf(view: ModelView): ModelView['outline'][number] | undefined {
  return view.outline.find((item) => item.id === view.at);
}
