'use client';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import { Group, Panel, Separator, useDefaultLayout, usePanelRef } from 'react-resizable-panels';
import type { SourceFile } from '@/core/documents';
import type { Fault } from '@/core/fault';
import type { ModelView as Model, OutlineItem } from '@/core/picture';
import { plural } from '@/core/wording';
import { useJustified } from '../coverage/useJustified';
import { SaveLine } from '../drafts/SaveLine';
import { useDrafts } from '../drafts/useDrafts';
import { useUndoKeys } from '../drafts/useUndoKeys';
import { askEngine } from '../engine/engine';
import { AddDocument } from './documents/AddDocument';
import { Outline } from './documents/Outline';
import { Drawing } from './drawing/Drawing';
import { LensContext } from './drawing/LensOn';
import type { Laid } from './drawing/layout';
import { Room } from './drawing/Room';
import { unfold, WholeButton } from './drawing/WholeButton';
import { Faults } from './Faults';
import { FaceForm, type Value } from './face/FaceForm';
import { GatherLine } from './GatherLine';
import { LensPane } from './LensPane';
import { LoopFaults } from './LoopFaults';
import { RenameLine } from './RenameLine';
import { TextPane, type TextPaneProps } from './text/TextPane';
import { useInspection } from './useInspection';
import { useLens } from './useLens';
import { type Sought, useOpened } from './useOpened';

export interface ModelViewProps {
  readonly slug: string;
  readonly revision: number;
  readonly files: readonly SourceFile[];
  /** What the server has read and laid out. */
  readonly first: { readonly view: Model; readonly laid: readonly Laid[] | undefined };
}

/** Loops and components: picture, text and face are three views of one document and follow each other while one types. */
export function ModelView({ slug, revision, files, first }: ModelViewProps) {
  const { at, open, sought } = useOpened(first.view);
  const drafts = useDrafts(slug, revision, files);
  const { view, stale, problem } = useInspection(drafts.files, at, first.view);
  const item = view.outline.find((one) => one.id === view.at);
  const { sizes, layout } = useRememberedSizes();
  const words = usePanelRef();
  const [alone, setAlone] = useState(false);
  useUndoKeys(drafts.undo, drafts.redo);
  const lens = useLens(drafts.files, view.at);
  const justify = useJustified(drafts);
  // The panels are made anew where `sizes` changes, folded as they were left.
  useEffect(() => {
    if (sought) unfold(words);
  }, [sought, sizes]);
  const add = (path: string, text: string): void => {
    drafts.edit(path, text);
    open(`document:${path}`);
  };
  const show = (place: Sought): void => {
    const there = [item, ...view.outline].find((one) => one?.file === place.file);
    open(there?.id ?? `document:${place.file}`, place);
  };
  return (
    <div className="panes grid h-full grid-cols-[200px_1fr]">
      <Outline items={view.outline} at={view.at} select={open}>
        <AddDocument slug={slug} files={drafts.files} drafted={drafts.changed} add={add} take={drafts.take} />
      </Outline>
      {item ? (
        <div className="h-full min-w-0">
          <Group key={sizes} orientation="vertical" {...layout}>
            <Panel id="drawing" defaultSize="58%" minSize="20%">
              <main className={`h-full px-6 pt-4 pb-6 ${alone ? 'flex flex-col' : 'overflow-auto'}`}>
                <Heading view={view} item={item} open={open} show={show}>
                  <div className="flex shrink-0 gap-2">
                    <button type="button" className="act aria-pressed:bg-tint" aria-pressed={lens.isOn} onClick={lens.toggle}>
                      Coverage
                    </button>
                    <WholeButton alone={alone} drawn={view.picture.k === 'net' || view.picture.k === 'chart'} words={words} />
                  </div>
                </Heading>
                {lens.isOn && (
                  <LensPane slug={slug} found={lens.found} problem={lens.problem} chosen={lens.chosen} drafts={drafts} justify={justify} />
                )}
                {problem && <p className="text-fail">{problem}</p>}
                {stale && <p className="text-soft">The text has a fault at the moment; this shows the last version that could be read.</p>}
                <div className="h-3 shrink-0" />
                <LensContext value={lens.on}>
                  <Picture view={view} first={first} item={item} drafts={drafts} alone={alone} open={open} />
                </LensContext>
              </main>
            </Panel>
            <Separator className="h-[3px] bg-ink" />
            <Panel id="words" minSize="15%" collapsible panelRef={words} onResize={({ asPercentage }) => setAlone(asPercentage < 1)}>
              <div className="grid h-full grid-cols-2 max-md:grid-cols-1 max-md:overflow-y-auto max-md:[&>*]:h-[50svh]">
                <Face view={view} item={item} drafts={drafts} show={show} />
                <Text slug={slug} view={view} item={item} drafts={drafts} sought={sought} show={show} seen={lens.found?.lens.lines} />
              </div>
            </Panel>
          </Group>
        </div>
      ) : (
        <p className="p-8 text-soft">{problem ?? 'There is no loop and no component yet. Add one.'}</p>
      )}
    </div>
  );
}

/** What every pane of a document is given. */
interface PaneProps {
  readonly view: Model;
  readonly item: OutlineItem;
  readonly drafts: ReturnType<typeof useDrafts>;
}

function Heading({
  view,
  item,
  open,
  show,
  children,
}: Omit<PaneProps, 'drafts'> & {
  readonly open: (id: string) => void;
  readonly show: (place: Sought) => void;
  readonly children: ReactNode;
}) {
  return (
    <>
      <div className="sticky left-0 flex items-start justify-between gap-6">
        <div>
          <Trail view={view} open={open} />
          <Headline view={view} faults={view.faults.filter((fault) => fault.place.file === item.file)} />
        </div>
        {children}
      </div>
      <Warnings warnings={view.warnings.filter((warning) => warning.place.file === item.file)} show={show} />
    </>
  );
}

/** The drawing, and the parts chosen in it, which can be gathered into a component of their own. */
function Picture({
  view,
  first,
  item,
  drafts,
  alone,
  open,
}: PaneProps & { readonly first: ModelViewProps['first']; readonly alone: boolean; readonly open: (id: string) => void }) {
  const [chosen, setChosen] = useState<{ readonly at: string; readonly parts: ReadonlySet<string> }>({ at: '', parts: new Set() });
  const parts = chosen.at === view.at ? chosen.parts : new Set<string>();
  const chooseNone = (): void => setChosen({ at: '', parts: new Set() });
  const toggle = (part: string): void => {
    const next = new Set(parts);
    if (!next.delete(part)) next.add(part);
    setChosen({ at: view.at, parts: next });
  };
  const gather = async (name: string): Promise<string | undefined> => {
    const gathered = await askEngine('gather', { files: drafts.files, component: item.name, parts: [...parts], name });
    if ('refused' in gathered) return gathered.refused;
    drafts.editAll(gathered.files);
    chooseNone();
    return undefined;
  };
  return (
    <>
      {parts.size > 0 && <GatherLine count={parts.size} gather={gather} close={chooseNone} />}
      <Room whole={alone}>
        <Drawing
          view={view}
          known={view.picture === first.view.picture ? first.laid : undefined}
          open={open}
          choice={item.kind === 'loop' ? undefined : { chosen: parts, toggle }}
        />
      </Room>
    </>
  );
}

function Face({ view, item, drafts, show }: PaneProps & { readonly show: (place: Sought) => void }) {
  const setParameter = (name: string, value: Value): void => {
    void askEngine('replace', { text: drafts.text(item.file), path: ['parameters', name, 'value'], value }).then((text) => {
      if (text !== undefined) drafts.edit(item.file, text, true);
    });
  };
  const wire = async (): Promise<void> => {
    const found = await askEngine('wire', { files: drafts.files, loop: item.name });
    if (found) drafts.edit(found.path, found.text);
  };
  return (
    <section className="h-full overflow-y-auto px-6 py-3" aria-label="Face">
      {view.face ? (
        <>
          <Faults faults={view.faults.filter((fault) => fault.place.file === item.file)} show={show} />
          <FaceForm face={view.face} set={setParameter} />
        </>
      ) : (
        <LoopFaults faults={view.faults} show={show} wire={item.kind === 'loop' ? () => void wire() : undefined} />
      )}
    </section>
  );
}

function Text({
  slug,
  view,
  item,
  drafts,
  sought,
  show,
  seen,
}: PaneProps & {
  readonly slug: string;
  readonly sought: Sought | undefined;
  readonly show: (place: Sought) => void;
  readonly seen: TextPaneProps['seen'];
}) {
  const [renaming, setRenaming] = useState<{ readonly name: string; readonly offset: number }>();
  const rename = async (offset: number, to: string): Promise<string | undefined> => {
    const renamed = await askEngine('rename', { files: drafts.files, file: item.file, offset, to });
    if ('refused' in renamed) return renamed.refused;
    drafts.editAll(renamed.files);
    setRenaming(undefined);
    return undefined;
  };
  const goTo = async (offset: number): Promise<void> => {
    const found = await askEngine('define', { files: drafts.files, file: item.file, offset });
    if (found) show(found);
  };
  return (
    <section className="flex h-full min-h-0 flex-col border-rule border-l" aria-label="Text">
      <SaveLine slug={slug} drafts={drafts} faults={view.faults.length} path={item.file} />
      {renaming && (
        <RenameLine
          key={`${renaming.name} ${renaming.offset}`}
          name={renaming.name}
          rename={(to) => rename(renaming.offset, to)}
          close={() => setRenaming(undefined)}
        />
      )}
      <div className="min-h-0 flex-1">
        <TextPane
          path={item.file}
          text={drafts.text(item.file)}
          line={sought?.file === item.file ? sought : undefined}
          faults={view.faults.filter((fault) => fault.place.file === item.file)}
          warnings={view.warnings.filter((warning) => warning.place.file === item.file)}
          names={view.names}
          seen={seen}
          edit={(text) => drafts.edit(item.file, text, true)}
          undo={drafts.undo}
          redo={drafts.redo}
          goTo={(offset) => void goTo(offset)}
          rename={(name, offset) => setRenaming({ name, offset })}
        />
      </div>
    </section>
  );
}

/** Sizes as they were left in this browser. The page comes with others, since the server cannot know them; what has them is then made anew, by its key. */
function useRememberedSizes() {
  const layout = useDefaultLayout({ id: 'ovrand-model', storage: typeof window === 'undefined' ? noStorage : window.localStorage });
  const [sizes, setSizes] = useState('of the page');
  // Only those from before: what is changed from here on is on the screen already.
  const areLeft = useRef(layout.defaultLayout !== undefined);
  useEffect(() => {
    if (areLeft.current) setSizes('as they were left');
  }, []);
  return { layout, sizes };
}

const noStorage = { getItem: () => null, setItem: () => undefined };

function Trail({ view, open }: { readonly view: Model; readonly open: (id: string) => void }) {
  const loop = view.outline.find((one) => one.kind === 'loop');
  const item = view.outline.find((one) => one.id === view.at);
  if (!item || !loop || item.kind === 'loop') return <p className="text-soft">{item?.about ?? ''}</p>;
  return (
    <p className="text-soft">
      <button type="button" className="underline decoration-rule underline-offset-4" onClick={() => open(loop.id)}>
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
function Warnings({ warnings, show }: { readonly warnings: readonly Fault[]; readonly show: (place: Sought) => void }) {
  return warnings.map(({ place, message, fix }) => (
    <p key={`${place.line}:${place.column}:${message}`} className="text-soft">
      <button type="button" className="underline decoration-rule underline-offset-4" onClick={() => show(place)}>
        Line {place.line}
      </button>
      : {message} {fix}
    </p>
  ));
}
