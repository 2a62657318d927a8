'use client';
import { useCallback, useEffect, useMemo, useReducer } from 'react';
import type { SourceFile } from '@/core';

interface Change {
  readonly path: string;
  readonly before: string;
  readonly after: string;
}

/** One step of the history: of one document, or of several at once. */
interface Edit {
  readonly changes: readonly Change[];
  /** Typing goes on in the same step of the history for a moment. */
  readonly at: number;
}

interface Drafts {
  readonly texts: ReadonlyMap<string, string>;
  readonly past: readonly Edit[];
  readonly future: readonly Edit[];
}

type Action =
  | { readonly k: 'edit'; readonly files: readonly SourceFile[]; readonly at: number; readonly typed: boolean }
  | { readonly k: 'undo' }
  | { readonly k: 'redo' }
  | { readonly k: 'load'; readonly drafts: ReadonlyMap<string, string> }
  | { readonly k: 'saved' };

const oneStepMs = 800;
const mostSteps = 500;

/** Drafts of a project's documents: only texts that differ from the revision, one history for typing and forms alike, kept over a reload. */
export function useDrafts(slug: string, revision: number, files: readonly SourceFile[]) {
  const original = useCallback((path: string) => files.find((file) => file.path === path)?.text ?? '', [files]);
  const [drafts, dispatch] = useReducer((state: Drafts, action: Action) => reduce(state, action, original), {
    texts: new Map(),
    past: [],
    future: [],
  });
  const key = `ovrand drafts ${slug} ${revision}`;
  useEffect(() => {
    const kept = window.localStorage.getItem(key);
    if (kept) dispatch({ k: 'load', drafts: new Map(JSON.parse(kept) as [string, string][]) });
  }, [key]);
  useEffect(() => {
    if (drafts.texts.size > 0) keep(key, drafts.texts);
    else if (drafts.past.length > 0) window.localStorage.removeItem(key);
  }, [drafts, key]);
  const all = useMemo(
    () => [...new Map([...files.map((file) => [file.path, file.text] as const), ...drafts.texts])].map(([path, text]) => ({ path, text })),
    [files, drafts.texts],
  );
  return {
    /** All documents as they are now, drafts in place of what they change. */
    files: all,
    changed: drafts.texts,
    text: (path: string): string => drafts.texts.get(path) ?? original(path),
    edit: useCallback((path: string, text: string, typed = false) => dispatch({ k: 'edit', files: [{ path, text }], at: Date.now(), typed }), []),
    editAll: useCallback((changed: readonly SourceFile[]) => dispatch({ k: 'edit', files: changed, at: Date.now(), typed: false }), []),
    undo: useCallback(() => dispatch({ k: 'undo' }), []),
    redo: useCallback(() => dispatch({ k: 'redo' }), []),
    saved: useCallback(() => {
      window.localStorage.removeItem(key);
      dispatch({ k: 'saved' });
    }, [key]),
    canUndo: drafts.past.length > 0,
    canRedo: drafts.future.length > 0,
  };
}

/** Thousands of imported requirements may not fit into the browser's storage; the drafts then live as long as the page. */
function keep(key: string, texts: ReadonlyMap<string, string>): void {
  try {
    window.localStorage.setItem(key, JSON.stringify([...texts]));
  } catch {
    window.localStorage.removeItem(key);
  }
}

function reduce(state: Drafts, action: Action, original: (path: string) => string): Drafts {
  const put = (files: readonly SourceFile[]): Map<string, string> => {
    const texts = new Map(state.texts);
    for (const { path, text } of files) {
      if (text === original(path)) texts.delete(path);
      else texts.set(path, text);
    }
    return texts;
  };
  switch (action.k) {
    case 'edit': {
      const now = (path: string): string => state.texts.get(path) ?? original(path);
      const changes = action.files.flatMap(({ path, text }) => (now(path) === text ? [] : [{ path, before: now(path), after: text }]));
      const [change] = changes;
      if (!change) return state;
      const last = state.past.at(-1);
      const [typed] = last?.changes ?? [];
      const joins = action.typed && typed?.path === change.path && last?.changes.length === 1 && action.at - last.at < oneStepMs;
      const edit: Edit = { changes: joins && typed ? [{ ...change, before: typed.before }] : changes, at: action.at };
      const past = [...(joins ? state.past.slice(0, -1) : state.past), edit].slice(-mostSteps);
      return { texts: put(action.files), past, future: [] };
    }
    case 'undo': {
      const edit = state.past.at(-1);
      if (!edit) return state;
      const texts = put(edit.changes.map(({ path, before }) => ({ path, text: before })));
      return { texts, past: state.past.slice(0, -1), future: [edit, ...state.future] };
    }
    case 'redo': {
      const [edit, ...rest] = state.future;
      if (!edit) return state;
      return { texts: put(edit.changes.map(({ path, after }) => ({ path, text: after }))), past: [...state.past, edit], future: rest };
    }
    case 'load':
      return { ...state, texts: action.drafts };
    case 'saved':
      // The history lives on: an undo after a save makes a new draft.
      return { ...state, texts: new Map() };
  }
}
