'use client';
import { closeBrackets, closeBracketsKeymap, completionKeymap } from '@codemirror/autocomplete';
import { defaultKeymap } from '@codemirror/commands';
import { yaml } from '@codemirror/lang-yaml';
import { bracketMatching, HighlightStyle, indentOnInput, StreamLanguage, syntaxHighlighting } from '@codemirror/language';
import { type Diagnostic, linter, lintGutter } from '@codemirror/lint';
import { type Extension, Prec, StateEffect } from '@codemirror/state';
import {
  drawSelection,
  EditorView,
  GutterMarker,
  gutter,
  highlightActiveLine,
  highlightActiveLineGutter,
  type KeyBinding,
  keymap,
  lineNumbers,
} from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { type RefObject, useEffect, useMemo, useRef } from 'react';
import type { Fault, Place } from '@/core/fault';
import type { ModelView, SeenLine } from '@/core/picture';
import { useEditor } from '../../text/useEditor';
import { completion } from './completion';
import { structuredText } from './structuredText';

export interface TextPaneProps {
  readonly path: string;
  readonly text: string;
  /** A line to bring in sight; each time another object is given. */
  readonly line: Pick<Place, 'line'> | undefined;
  readonly faults: readonly Fault[];
  readonly warnings: readonly Fault[];
  readonly names: ModelView['names'];
  /** How often what stands on a line was done, where coverage is laid over the text. */
  readonly seen?: readonly SeenLine[] | undefined;
  readonly edit: (text: string) => void;
  readonly undo: () => void;
  readonly redo: () => void;
  /** Goes to where that is defined what stands at an offset. */
  readonly goTo: (offset: number) => void;
  /** Asks for a new name for what stands at an offset. */
  readonly rename: (name: string, offset: number) => void;
}

const look = EditorView.theme({
  '&': { backgroundColor: 'var(--sheet)', color: 'var(--ink)', fontSize: '12.5px', height: '100%' },
  '.cm-scroller': { fontFamily: 'var(--font-mono)', lineHeight: '1.5' },
  '.cm-gutters': { backgroundColor: 'var(--sheet)', color: 'var(--soft)', border: 'none' },
  '.cm-activeLine, .cm-activeLineGutter': { backgroundColor: 'var(--tint)' },
  '.cm-count': { padding: '0 6px', color: 'var(--soft)', fontSize: '11px' },
  '.cm-count-missing': { color: 'var(--lack)', fontWeight: '700' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '&.cm-focused .cm-selectionBackground, .cm-selectionBackground, ::selection': { backgroundColor: 'var(--band-2) !important' },
  '.cm-tooltip': { backgroundColor: 'var(--sheet)', color: 'var(--ink)', border: '1px solid var(--rule)', fontFamily: 'var(--font-sans)' },
  '.cm-tooltip-autocomplete ul li[aria-selected]': { backgroundColor: 'var(--ink)', color: 'var(--sheet)' },
  '.cm-completionDetail': { fontStyle: 'normal', marginLeft: '1em', opacity: '0.75' },
  '.cm-diagnostic-warning': { borderLeft: '3px solid var(--lack)' },
  '.cm-lint-marker-warning': { content: 'none', width: '4px', height: '1.3em', backgroundColor: 'var(--lack)' },
  '.cm-lintRange-warning': { backgroundImage: 'none', borderBottom: '2px dotted var(--lack)' },
  '.cm-diagnostic-error': { borderLeft: '3px solid var(--fail)' },
  '.cm-lint-marker-error': { content: 'none', width: '4px', height: '1.3em', backgroundColor: 'var(--fail)' },
  '.cm-lintRange-error': { backgroundImage: 'none', borderBottom: '2px solid var(--fail)' },
});
const inks = syntaxHighlighting(
  HighlightStyle.define([
    { tag: [tags.propertyName, tags.definition(tags.propertyName)], color: 'var(--ink)', fontWeight: '600' },
    { tag: [tags.keyword, tags.operatorKeyword, tags.bool], color: 'var(--key)' },
    { tag: [tags.comment, tags.meta], color: 'var(--soft)', fontStyle: 'italic' },
    { tag: [tags.number, tags.string, tags.content], color: 'var(--ink)' },
    { tag: tags.typeName, color: 'var(--pass)' },
  ]),
);

/** The text of a document: highlighting, completion from the catalogue, marks at faults, one history with the forms. */
export function TextPane(props: TextPaneProps) {
  // Extensions are made once for a document; what changes while typing is read through this.
  const now = useRef(props);
  now.current = props;
  const extensions = useMemo(
    (): Extension[] => [
      look,
      inks,
      lineNumbers(),
      countsBeside(now),
      drawSelection(),
      highlightActiveLine(),
      highlightActiveLineGutter(),
      indentOnInput(),
      bracketMatching(),
      closeBrackets(),
      EditorView.contentAttributes.of({ 'aria-label': `Text of ${props.path}` }),
      EditorView.lineWrapping,
      languageOf(props.path),
      completion(props.path, () => now.current.names),
      marks(now),
      lintGutter(),
      Prec.highest(keymap.of(ownKeys(now))),
      goingToDefinitions(now),
      keymap.of([...closeBracketsKeymap, ...completionKeymap, ...defaultKeymap]),
    ],
    [props.path],
  );
  const place = useRef<HTMLDivElement>(null);
  const view = useEditor(place, props.text, extensions, (text) => now.current.edit(text));
  // The counts are drawn anew.
  useEffect(() => view.current?.dispatch({ effects: countsChanged.of(null) }), [view, props.seen]);
  useEffect(() => {
    if (view.current && props.line) bringInSight(view.current, props.line.line);
  }, [view, props.line]);
  return <div ref={place} className="h-full" />;
}

type Now = Readonly<RefObject<TextPaneProps>>;

const countsChanged = StateEffect.define<null>();

/** Between the numbers of lines and the text, how often what stands on a line was done. */
function countsBeside(now: Now): Extension {
  return gutter({
    class: 'cm-counts',
    lineMarkerChange: ({ transactions }) => transactions.some(({ effects }) => effects.some((one) => one.is(countsChanged))),
    lineMarker: (view, { from }) => {
      const { number } = view.state.doc.lineAt(from);
      const seen = now.current.seen?.find(({ line }) => line === number);
      return seen ? new CountMarker(seen) : null;
    },
  });
}

class CountMarker extends GutterMarker {
  constructor(private readonly seen: SeenLine) {
    super();
  }

  override eq({ seen }: CountMarker): boolean {
    return seen.short === this.seen.short && seen.words === this.seen.words;
  }

  override toDOM(): Node {
    const mark = document.createElement('span');
    mark.textContent = this.seen.short;
    mark.title = this.seen.words;
    mark.className = this.seen.isMissing ? 'cm-count cm-count-missing' : 'cm-count';
    return mark;
  }
}

function marks(now: Now): Extension {
  return linter(
    (view) => [
      ...now.current.faults.flatMap((fault) => diagnostic(view, fault, 'error')),
      ...now.current.warnings.flatMap((warning) => diagnostic(view, warning, 'warning')),
    ],
    { delay: 150, needsRefresh: () => true },
  );
}

/** Undo and redo of the drafts' one history, renaming and going to a definition. */
function ownKeys(now: Now): KeyBinding[] {
  const step = (run: (view: EditorView) => void) => (view: EditorView) => {
    run(view);
    return true;
  };
  return [
    { key: 'Mod-z', run: step(() => now.current.undo()) },
    { key: 'Mod-y', run: step(() => now.current.redo()) },
    { key: 'Mod-Shift-z', run: step(() => now.current.redo()) },
    {
      key: 'F2',
      run: (view) => {
        const word = wordAtCursor(view);
        if (word) now.current.rename(word, view.state.selection.main.head);
        return word !== '';
      },
    },
    { key: 'F12', run: step((view) => now.current.goTo(view.state.selection.main.head)) },
  ];
}

function goingToDefinitions(now: Now): Extension {
  return EditorView.domEventHandlers({
    mousedown: (event, view) => {
      const at = event.ctrlKey || event.metaKey ? view.posAtCoords({ x: event.clientX, y: event.clientY }) : null;
      if (at === null) return false;
      now.current.goTo(at);
      return true;
    },
  });
}

function bringInSight(view: EditorView, wanted: number): void {
  const { doc } = view.state;
  const { from } = doc.line(Math.min(wanted, doc.lines));
  view.dispatch({ selection: { anchor: from }, effects: EditorView.scrollIntoView(from, { y: 'center' }) });
  view.focus();
}

function languageOf(path: string): Extension {
  if (path.endsWith('.st')) return StreamLanguage.define(structuredText);
  return /\.(scxml|csv)$/.test(path) ? [] : yaml();
}

function wordAtCursor(view: EditorView): string {
  const { head } = view.state.selection.main;
  const word = view.state.wordAt(head);
  return word ? view.state.sliceDoc(word.from, word.to) : '';
}

function diagnostic(view: EditorView, { place, message, fix }: Fault, severity: Diagnostic['severity']): Diagnostic[] {
  const { doc } = view.state;
  if (place.line > doc.lines) return [];
  const line = doc.line(place.line);
  const from = Math.min(line.from + place.column - 1, line.to);
  const length = /^[A-Za-z0-9_.%/]+/.exec(doc.sliceString(from, line.to))?.[0].length ?? 1;
  return [{ from, to: Math.min(from + length, doc.length), severity, message: `${message} ${fix}` }];
}
