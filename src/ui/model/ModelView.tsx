'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import { Group, Panel, Separator, useDefaultLayout } from 'react-resizable-panels';
import type { Fault, ModelView as Model, SourceFile } from '@/core';
import { replaceInEngine, wireInEngine } from '../engine/engine';
import { useAddress } from '../state/useAddress';
import { plural } from '../state/words';
import { AddDocument } from './AddDocument';
import { ChartDrawing } from './ChartDrawing';
import { FaceForm } from './FaceForm';
import { NetDrawing } from './NetDrawing';
import { Outline } from './Outline';
import { saveRevision } from './saveRevision';
import { TextPane } from './TextPane';
import { useDrafts } from './useDrafts';
import { useInspection } from './useInspection';

export interface ModelViewProps {
  readonly slug: string;
  readonly revision: number;
  readonly files: readonly SourceFile[];
}

/** Loops and components: picture, text and face are three views of one document and follow each other while one types. */
export function ModelView({ slug, revision, files }: ModelViewProps) {
  const [at = '', setAt] = useAddress('at');
  const drafts = useDrafts(slug, revision, files);
  const current = useMemo(() => {
    const texts = new Map([...files.map((file) => [file.path, file.text] as const), ...drafts.changed]);
    return [...texts].map(([path, text]) => ({ path, text }));
  }, [files, drafts.changed]);
  const { view, stale, problem } = useInspection(current, at);
  const item = view?.outline.find((one) => one.id === view.at);
  const layout = useDefaultLayout({ id: 'ovrand-model', storage: typeof window === 'undefined' ? noStorage : window.localStorage });
  useUndoKeys(drafts.undo, drafts.redo);
  if (!view || !item) return <p className="p-8 text-soft">{problem ?? 'Reading the model …'}</p>;
  const here = view.faults.filter((fault) => fault.place.file === item.file);
  const doubts = view.doubts.filter((doubt) => doubt.place.file === item.file);
  const setParameter = (name: string, value: number | boolean): void => {
    void replaceInEngine(drafts.text(item.file), ['parameters', name, 'value'], value).then((text) => {
      if (text !== undefined) drafts.edit(item.file, text, true);
    });
  };
  const add = (path: string, text: string): void => {
    drafts.edit(path, text);
    setAt(`document:${path}`);
  };
  const wire = async (): Promise<void> => {
    const found = await wireInEngine(current, item.name);
    if (found) drafts.edit(found.path, found.text);
  };
  const goTo = (name: string): boolean => {
    const found = view.outline.find((one) => one.name.toLowerCase() === name.toLowerCase());
    if (found) setAt(found.id);
    return found !== undefined;
  };
  return (
    <div className="grid h-full grid-cols-[200px_1fr]">
      <Outline items={view.outline} at={view.at} select={setAt}>
        <AddDocument slug={slug} taken={current.map((file) => file.path)} add={add} />
      </Outline>
      <Group orientation="vertical" {...layout}>
        <Panel id="drawing" defaultSize="58%" minSize="20%">
          <main className="h-full overflow-auto px-6 pt-4 pb-6">
            <Trail view={view} setAt={setAt} />
            <Headline view={view} faults={here} />
            <Doubts doubts={doubts} />
            {stale && <p className="text-soft">The text cannot be read at the moment; this is the last that could.</p>}
            <div className="mt-3">
              <Drawing view={view} open={setAt} />
            </div>
          </main>
        </Panel>
        <Separator className="h-[3px] bg-ink" />
        <Panel id="words" minSize="15%">
          <div className="grid h-full grid-cols-2">
            <section className="h-full overflow-y-auto px-6 py-3" aria-label="Face">
              {view.face ? (
                <FaceForm face={view.face} set={setParameter} />
              ) : (
                <LoopFaults faults={view.faults} setAt={setAt} view={view} wire={item.kind === 'loop' ? () => void wire() : undefined} />
              )}
            </section>
            <section className="flex h-full min-h-0 flex-col border-rule border-l" aria-label="Text">
              <SaveLine slug={slug} revision={revision} drafts={drafts} faults={view.faults.length} path={item.file} />
              <div className="min-h-0 flex-1">
                <TextPane
                  path={item.file}
                  text={drafts.text(item.file)}
                  faults={here}
                  doubts={doubts}
                  names={view.names}
                  edit={(text) => drafts.edit(item.file, text, true)}
                  undo={drafts.undo}
                  redo={drafts.redo}
                  goTo={goTo}
                />
              </div>
            </section>
          </div>
        </Panel>
      </Group>
    </div>
  );
}

/** On the server there is nothing to remember sizes by. */
const noStorage = { getItem: () => null, setItem: () => undefined };

/** Undo and redo wherever one is; inside the editor its own keys do the same. */
function useUndoKeys(undo: () => void, redo: () => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (!(event.ctrlKey || event.metaKey) || event.defaultPrevented) return;
      const key = event.key.toLowerCase();
      if (key !== 'z' && key !== 'y') return;
      event.preventDefault();
      if (key === 'y' || event.shiftKey) redo();
      else undo();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [undo, redo]);
}

function Trail({ view, setAt }: { readonly view: Model; readonly setAt: (id: string) => void }) {
  const loop = view.outline.find((one) => one.kind === 'loop');
  const item = view.outline.find((one) => one.id === view.at);
  if (!item || !loop || item.kind === 'loop') return <p className="text-soft">{item?.about ?? ''}</p>;
  return (
    <p className="text-soft">
      <button type="button" className="underline decoration-rule underline-offset-4" onClick={() => setAt(loop.id)}>
        {loop.name}
      </button>{' '}
      › {item.name}
    </p>
  );
}

function Headline({ view, faults }: { readonly view: Model; readonly faults: readonly Fault[] }) {
  return (
    <h1 className="headline">
      {view.headline}
      {faults.length > 0 ? (
        <>
          ; <strong className="font-semibold text-fail">{plural(faults.length, 'fault')}</strong> in its text.
        </>
      ) : (
        '.'
      )}
    </h1>
  );
}

/** Suspicious places of the document on the screen. */
function Doubts({ doubts }: { readonly doubts: readonly Fault[] }) {
  return doubts.map(({ place, message, mend }) => (
    <p key={`${place.line}:${place.column}:${message}`} className="text-soft">
      Line {place.line}: {message} {mend}
    </p>
  ));
}

function Drawing({ view, open }: { readonly view: Model; readonly open: (id: string) => void }) {
  const { picture } = view;
  switch (picture.k) {
    case 'net':
      return <NetDrawing picture={picture} open={open} />;
    case 'chart':
      return <ChartDrawing regions={picture.regions} />;
    case 'equations':
      return (
        <table className="font-mono text-[13px]">
          <tbody>
            {picture.lines.map((line) => (
              <tr key={line.left} className="border-rule border-b">
                <th className="py-1.5 pr-6 text-left font-semibold">{line.left}</th>
                <td className="py-1.5">{line.right}</td>
              </tr>
            ))}
          </tbody>
        </table>
      );
    case 'text':
      return (
        <p className="max-w-[60ch] font-serif text-[16px]">
          {view.face
            ? 'A routine runs its statements from top to bottom at each hit. Its text stands below; what it reads and writes stands in its face.'
            : 'This document has no drawing. Its text stands below.'}
        </p>
      );
  }
}

interface LoopFaultsProps {
  readonly faults: readonly Fault[];
  readonly view: Model;
  readonly setAt: (id: string) => void;
  /** Wires what has equal names; nothing outside a loop. */
  readonly wire: (() => void) | undefined;
}

function LoopFaults({ faults, view, setAt, wire }: LoopFaultsProps) {
  if (faults.length === 0)
    return <p className="font-serif text-[16px]">No faults. Everything that is wired fits in type and unit, and every input has a source.</p>;
  const unconnected = faults.some((fault) => fault.code === 'unconnected-input');
  return (
    <ul>
      {wire && unconnected && (
        <li className="pb-2">
          <button type="button" className="act" onClick={wire}>
            Wire equal names
          </button>
        </li>
      )}
      {faults.map((fault) => {
        const item = view.outline.find((one) => one.file === fault.place.file);
        return (
          <li key={`${fault.place.file}:${fault.place.line}:${fault.place.column}:${fault.message}`} className="border-rule border-b py-1.5">
            <button type="button" className="figure text-soft underline underline-offset-4" onClick={() => item && setAt(item.id)}>
              {fault.place.file}:{fault.place.line}
            </button>
            <p>
              {fault.message} <span className="text-soft">{fault.mend}</span>
            </p>
          </li>
        );
      })}
    </ul>
  );
}

interface SaveLineProps {
  readonly slug: string;
  readonly revision: number;
  readonly drafts: ReturnType<typeof useDrafts>;
  readonly faults: number;
  readonly path: string;
}

function SaveLine({ slug, revision, drafts, faults, path }: SaveLineProps) {
  const router = useRouter();
  const [answer, setAnswer] = useState<string>();
  const changed = drafts.changed.size;
  const save = async (): Promise<void> => {
    const result = await saveRevision(
      slug,
      revision,
      [...drafts.changed].map(([file, text]) => ({ path: file, text })),
    );
    if (typeof result === 'string') {
      setAnswer(result);
      return;
    }
    setAnswer(`Saved as revision ${result.revision}.`);
    drafts.saved();
    router.refresh();
  };
  return (
    <div className="flex flex-wrap items-center gap-2 border-rule border-b px-4 py-1.5">
      <span className="truncate text-[12.5px] text-soft">{path}</span>
      <span className="ml-auto whitespace-nowrap text-[12.5px] text-soft" role="status">
        {changed > 0 ? `${plural(changed, 'draft')}${faults > 0 ? `, ${plural(faults, 'fault')}` : ''}` : (answer ?? 'as saved')}
      </span>
      <button type="button" className="act" disabled={!drafts.canUndo} onClick={drafts.undo}>
        Undo
      </button>
      <button type="button" className="act" disabled={!drafts.canRedo} onClick={drafts.redo}>
        Redo
      </button>
      <button type="button" className="act" disabled={changed === 0 || faults > 0} onClick={() => void save()}>
        Save
      </button>
      {changed > 0 && answer && <p className="w-full text-[12.5px] text-fail">{answer}</p>}
    </div>
  );
}
