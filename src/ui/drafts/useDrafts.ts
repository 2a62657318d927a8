'use client';
import { useCallback, useEffect, useMemo, useReducer, useRef, useState } from 'react';
import type { SourceFile } from '@/core/documents';
import { type Action, begunOn, changedIn, type Draft, type Drafts, type Head, noDrafts, overtaken, reduce, textOf } from './drafts';
import { DraftShelf } from './shelf';

/** Drafts of a project's documents: one history for typing and forms alike, kept over a reload, the same in all pages of a browser. */
export function useDrafts(slug: string, revision: number, files: readonly SourceFile[]) {
  const head = useMemo<Head>(() => {
    const texts = new Map(files.map((file) => [file.path, file.text]));
    return { revision, text: (path) => texts.get(path) ?? '' };
  }, [revision, files]);
  const [drafts, dispatch] = useReducer((state: Drafts, action: Action) => reduce(state, action, head), noDrafts);
  const isKept = useKept(slug, drafts, dispatch);
  // The drafts look again whenever the page shows another revision.
  useEffect(() => dispatch({ k: 'follow' }), [head]);
  const all = useMemo(() => {
    const texts = new Map(files.map((file) => [file.path, file.text]));
    for (const [path, { text }] of drafts.texts) texts.set(path, text);
    // A document without a text is taken out when it is saved.
    return [...texts].filter(([, text]) => text !== '').map(([path, text]) => ({ path, text }));
  }, [files, drafts.texts]);
  return {
    /** All documents as they are now, drafts in place of what they change. */
    files: all,
    changed: useMemo(() => changedIn(drafts), [drafts]),
    /** The drafts with what each was begun from. */
    texts: drafts.texts,
    /** The revision they were begun on. */
    begun: useMemo(() => begunOn(drafts), [drafts]),
    head,
    /** The revision a save goes on top of: of a save whose revision the page does not show yet, that one. */
    saveOn: Math.max(revision, drafts.savedAs),
    /** Documents that somebody else has changed meanwhile; they are merged before they are saved. */
    overtaken: useMemo(() => overtaken(drafts, head), [drafts, head]),
    isKept,
    text: (path: string): string => textOf(drafts, head, path),
    edit: useCallback((path: string, text: string, typed = false) => dispatch({ k: 'edit', files: [{ path, text }], at: Date.now(), typed }), []),
    /** What is dragged: all of one movement is one step of the history. */
    drag: useCallback(
      (path: string, text: string, movement: number) => dispatch({ k: 'edit', files: [{ path, text }], at: Date.now(), typed: false, movement }),
      [],
    ),
    editAll: useCallback((changed: readonly SourceFile[]) => dispatch({ k: 'edit', files: changed, at: Date.now(), typed: false }), []),
    /** Takes in documents that were begun from an older revision. */
    take: useCallback((texts: ReadonlyMap<string, Draft>) => dispatch({ k: 'load', texts }), []),
    undo: useCallback(() => dispatch({ k: 'undo' }), []),
    redo: useCallback(() => dispatch({ k: 'redo' }), []),
    saved: useCallback((sent: readonly SourceFile[], as: number) => dispatch({ k: 'saved', files: sent, revision: as }), []),
    merged: useCallback((texts: readonly SourceFile[]) => dispatch({ k: 'merged', files: texts }), []),
    canUndo: drafts.past.length > 0,
    canRedo: drafts.future.length > 0,
  };
}

/** Keeps the drafts in the browser, and takes in what another page of the same project keeps there. */
function useKept(slug: string, drafts: Drafts, dispatch: (action: Action) => void): boolean {
  const [isKept, setKept] = useState(true);
  const shelf = useRef<DraftShelf>(undefined);
  useEffect(() => {
    const own = new DraftShelf(window.localStorage, slug);
    shelf.current = own;
    dispatch({ k: 'load', texts: own.readAll() });
    const onStorage = (event: StorageEvent): void => {
      const taken = own.taken(event.key, event.newValue);
      if (taken) dispatch({ k: 'load', texts: new Map([taken]) });
    };
    window.addEventListener('storage', onStorage);
    return () => window.removeEventListener('storage', onStorage);
  }, [slug, dispatch]);
  const unsaved = useMemo(() => new Map([...drafts.texts].filter(([, { text, base }]) => text !== base)), [drafts.texts]);
  useEffect(() => setKept(shelf.current?.put(unsaved) ?? true), [unsaved]);
  return isKept;
}
