'use client';
import { type Extension, Transaction } from '@codemirror/state';
import { EditorView } from '@codemirror/view';
import { type RefObject, useEffect, useRef } from 'react';

/**
 * A text editor whose text lives outside: typing is told at once, and a text that comes from elsewhere (undo, a form) replaces
 * only what differs, so that the cursor stays. What is given back holds the editor once it is there.
 */
export function useEditor(
  place: RefObject<HTMLDivElement | null>,
  text: string,
  extensions: Extension,
  typed: (text: string) => void,
): RefObject<EditorView | undefined> {
  const view = useRef<EditorView>(undefined);
  const newest = useRef({ text, typed });
  /** Texts told and not yet heard back: their echo must not undo what was typed since. */
  const told = useRef<string[]>([]);
  newest.current = { text, typed };
  useEffect(() => {
    if (!place.current) return;
    const editor = new EditorView({
      parent: place.current,
      doc: newest.current.text,
      extensions: [
        extensions,
        EditorView.updateListener.of((update) => {
          if (update.docChanged && !update.transactions.some((one) => one.annotation(Transaction.remote)))
            newest.current.typed(update.state.doc.toString());
        }),
      ],
    });
    // Whoever works by keyboard must be able to scroll what does not fit.
    editor.scrollDOM.tabIndex = 0;
    view.current = editor;
    return () => editor.destroy();
  }, [place, extensions]);
  useEffect(() => {
    const echo = told.current.indexOf(text);
    if (echo >= 0) {
      told.current.splice(0, echo + 1);
      return;
    }
    told.current.length = 0;
    const editor = view.current;
    const change = editor && difference(editor.state.doc.toString(), text);
    if (editor && change) editor.dispatch({ changes: change, annotations: Transaction.remote.of(true) });
  }, [text]);
  return view;
}

/** The one stretch in which two texts differ. */
function difference(from: string, to: string): { from: number; to: number; insert: string } | undefined {
  if (from === to) return undefined;
  const shorter = Math.min(from.length, to.length);
  let start = 0;
  while (start < shorter && from[start] === to[start]) start += 1;
  let end = 0;
  while (end < shorter - start && from[from.length - 1 - end] === to[to.length - 1 - end]) end += 1;
  return { from: start, to: from.length - end, insert: to.slice(start, to.length - end) };
}
