'use client';
import {
  acceptCompletion,
  autocompletion,
  type CompletionContext,
  type CompletionResult,
  completionKeymap,
  completionStatus,
} from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { type Extension, Prec } from '@codemirror/state';
import { Decoration, type DecorationSet, EditorView, type KeyBinding, keymap, ViewPlugin, type ViewUpdate } from '@codemirror/view';
import { useEffect, useMemo, useRef, useState } from 'react';
import { isSentenceWord } from '@/core/criteria';
import type { RequirementsInspection, SentenceMeaning } from '@/core/requirements';
import { askEngine } from '../engine/engine';
import { useEditor } from '../text/useEditor';

interface SentenceEditorProps {
  readonly sentence: string;
  readonly names: RequirementsInspection['names'];
  /** Each text that is typed, so that it can be looked at on a trace. */
  readonly typed: (sentence: string) => void;
  readonly accept: (sentence: string) => void;
  readonly close: () => void;
}

const beginnings = [
  'always ',
  'never ',
  'while ',
  'when ',
  'if ',
  'sequence ',
  'overshoot of ',
  'rise time of ',
  'settling of ',
  'steady error of ',
  'peak of ',
  'mean of ',
  'rms of ',
  'duration of ',
  'longest ',
  'count of ',
  'time from ',
  'between ',
];
const following = [
  'rises',
  'falls',
  'becomes ',
  'changes',
  'crosses ',
  'while ',
  'within ',
  'for ',
  'until ',
  'after ',
  'between ',
  'AND ',
  'OR ',
  'NOT ',
  'enters ',
  'leaves ',
];

const look = EditorView.theme({
  '&': { backgroundColor: 'var(--sheet)', color: 'var(--ink)', fontSize: '13px', border: '1px solid var(--soft)', borderRadius: '5px' },
  '&.cm-focused': { outline: '2px solid var(--key)' },
  '.cm-scroller': { fontFamily: 'var(--font-mono)', lineHeight: '1.6', padding: '5px 4px' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '.cm-tooltip': { backgroundColor: 'var(--sheet)', color: 'var(--ink)', border: '1px solid var(--rule)', fontFamily: 'var(--font-sans)' },
  '.cm-tooltip-autocomplete ul li[aria-selected]': { backgroundColor: 'var(--ink)', color: 'var(--sheet)' },
  '.cm-completionDetail': { fontStyle: 'normal', marginLeft: '1em', opacity: '0.75' },
  '.cm-keyword': { color: 'var(--key)', fontWeight: '700' },
});

/** One line in which a sentence is written: completion at each place, faults under the word, its meaning below while one types. */
export function SentenceEditor(props: SentenceEditorProps) {
  const [text, setText] = useState(props.sentence);
  const meaning = useMeaning(text);
  const sound = meaning !== undefined && meaning.faults.length === 0;
  // A formula that was typed is kept as the sentence that says it.
  const said = meaning?.typed?.sentence ?? text.trim();
  const now = useRef({ ...props, sound, said });
  now.current = { ...props, sound, said };
  const extensions = useMemo(
    (): Extension[] => [
      look,
      history(),
      EditorView.lineWrapping,
      EditorView.contentAttributes.of({ 'aria-label': 'Sentence' }),
      keywords,
      completion(now),
      Prec.highest(keymap.of(ownKeys(now))),
      keymap.of([...completionKeymap, ...historyKeymap, ...defaultKeymap]),
    ],
    [],
  );
  const place = useRef<HTMLDivElement>(null);
  useEditor(place, text, extensions, (typed) => {
    setText(typed);
    props.typed(typed);
  });
  useEffect(() => {
    const content = place.current?.querySelector<HTMLElement>('.cm-content');
    content?.focus();
    // At the end, where most is changed.
    window.getSelection()?.selectAllChildren(content as Node);
    window.getSelection()?.collapseToEnd();
  }, []);
  return (
    <div>
      <div ref={place} />
      <Understood text={text} meaning={meaning} />
      <div className="mt-2 flex items-center gap-2">
        <button type="button" className="act act-first" disabled={!sound} onClick={() => props.accept(said)}>
          {meaning?.typed ? 'Accept as a sentence' : 'Accept as written'}
        </button>
        <button type="button" className="act" onClick={props.close}>
          Leave it
        </button>
        <kbd className="chip">Enter</kbd>
        <kbd className="chip">Esc</kbd>
      </div>
    </div>
  );
}

interface Now {
  readonly current: SentenceEditorProps & { readonly sound: boolean; readonly said: string };
}

/** Words a sentence begins or goes on with, and the names of the project. */
function completion(now: Now): Extension {
  const complete = (context: CompletionContext): CompletionResult | null => {
    const word = context.matchBefore(/[A-Za-z_][A-Za-z0-9_.]*/);
    if (!word && !context.explicit) return null;
    const from = word?.from ?? context.pos;
    const first = context.state.sliceDoc(0, from).trim() === '';
    const words = (first ? beginnings : following).map((label) => ({ label: label.trim(), apply: label, type: 'keyword', boost: first ? 2 : -1 }));
    const names = now.current.names.map(({ name, about }) => ({ label: name, detail: about, type: 'variable' }));
    return { from, options: [...words, ...(first ? [] : names)], validFor: /^[A-Za-z0-9_.]*$/ };
  };
  return autocompletion({ override: [complete] });
}

/** Enter accepts and Escape leaves, unless a completion is being chosen. */
function ownKeys(now: Now): KeyBinding[] {
  const unlessCompleting = (run: () => void) => (view: EditorView) => {
    if (completionStatus(view.state) === 'active') return false;
    run();
    return true;
  };
  const accept = (): void => {
    if (now.current.sound) now.current.accept(now.current.said);
  };
  return [
    { key: 'Enter', run: unlessCompleting(accept) },
    { key: 'Tab', run: acceptCompletion },
    { key: 'Escape', run: unlessCompleting(() => now.current.close()) },
  ];
}

/** The first fault of a sentence, or what it means. */
function Understood({ text, meaning }: { readonly text: string; readonly meaning: SentenceMeaning | undefined }) {
  const fault = meaning?.faults[0];
  return fault ? (
    <p className="mt-1.5 text-[13px] text-fail" role="alert">
      {fault.from < text.length ? `At “${wordAt(text, fault.from)}”: ` : ''}
      {fault.message} <span className="text-soft">{fault.fix}</span>
    </p>
  ) : (
    <>
      {meaning?.typed && (
        <p className="mt-1.5 text-[13px]">
          As a sentence: <code className="font-mono">{meaning.typed.sentence}</code>
        </p>
      )}
      {meaning?.typed?.note && <p className="mt-1 text-[13px] text-lack">{meaning.typed.note}</p>}
      <p className="mt-1.5 text-[13px] text-soft">{meaning?.words}</p>
    </>
  );
}

function wordAt(text: string, from: number): string {
  return /^\S+/.exec(text.slice(from).trimStart())?.[0].slice(0, 30) ?? '';
}

/** What a sentence means in the project that was read last. */
function useMeaning(sentence: string): SentenceMeaning | undefined {
  const [meaning, setMeaning] = useState<SentenceMeaning>();
  useEffect(() => {
    let wanted = true;
    void askEngine('meaning', { sentence }).then((found) => wanted && setMeaning(found));
    return () => {
      wanted = false;
    };
  }, [sentence]);
  return meaning;
}

const keyword = Decoration.mark({ class: 'cm-keyword' });
const keywords = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet;
    constructor(view: EditorView) {
      this.decorations = marksIn(view.state.doc.toString());
    }
    update(update: ViewUpdate): void {
      if (update.docChanged) this.decorations = marksIn(update.state.doc.toString());
    }
  },
  { decorations: (plugin) => plugin.decorations },
);

function marksIn(text: string): DecorationSet {
  const words = [...text.matchAll(/[A-Za-z]+/g)].filter((match) => isSentenceWord(match[0]));
  return Decoration.set(words.map((match) => keyword.range(match.index, match.index + match[0].length)));
}
