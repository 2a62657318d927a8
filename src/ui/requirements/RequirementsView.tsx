'use client';
import { useEffect, useRef, useState } from 'react';
import type { SourceFile } from '@/core/documents';
import type { RequirementsInspection, RequirementView } from '@/core/requirements';
import { plural } from '@/core/wording';
import { SaveLine } from '../drafts/SaveLine';
import { useDrafts } from '../drafts/useDrafts';
import { useUndoKeys } from '../drafts/useUndoKeys';
import type { LedgerHead } from '../hooks/ledgerHead';
import { useAddress } from '../hooks/useAddress';
import { useWholeLedger } from '../hooks/useWholeLedger';
import { AgainstEachOther } from './AgainstEachOther';
import { BringIn } from './BringIn';
import { ReadingPane } from './ReadingPane';
import { RequirementList } from './RequirementList';
import { TakeOut } from './TakeOut';
import { useReadings } from './useReadings';
import { useReadingWork } from './useReadingWork';
import { useRequirements } from './useRequirements';

export interface RequirementsViewProps {
  readonly slug: string;
  readonly revision: number;
  readonly files: readonly SourceFile[];
  readonly head: LedgerHead;
  /** What the server has read, unless it is too much to send twice. */
  readonly first: RequirementsInspection | undefined;
}

/** The requirements as a document; beside it what the chosen one was read into. All of it can be walked and decided by keyboard. */
export function RequirementsView({ slug, revision, files, head, first }: RequirementsViewProps) {
  const { rows } = useWholeLedger(slug, head);
  const [at, setAt] = useAddress('at');
  const [onlyOpen, setOnlyOpen] = useState(false);
  const [beside, setBeside] = useState<'reading' | 'bring in' | 'against'>('reading');
  const showReading = (): void => setBeside('reading');
  const drafts = useDrafts(slug, revision, files);
  const { inspected, problem } = useRequirements(drafts.files, first);
  useUndoKeys(drafts.undo, drafts.redo);
  const all = inspected?.view.requirements ?? [];
  const listed = onlyOpen ? all.filter((one) => isOpen(one) || one.id === at) : all;
  const requirement = listed.find((one) => one.id === at) ?? listed[0];
  const version = inspected?.version ?? 0;
  const readings = useReadings(requirement ? [requirement.text] : [], version);
  const reading = requirement && readings.get(requirement.text);
  const work = useReadingWork(requirement, reading, drafts);
  const select = (id: string | undefined): void => {
    setAt(id);
    showReading();
  };
  const choose = (index: number): void => {
    const several = work.offered.find((alternatives) => alternatives.length > 1);
    if (several?.[index]) work.choose(several[index].part, index);
  };
  useKeys({ ...walking(listed, all, requirement, select), accept: work.accept, edit: work.edit, reject: work.reject, choose });
  if (!inspected) return <p className="p-8 text-soft">{problem ?? 'Reading the requirements …'}</p>;
  const { view } = inspected;
  return (
    <div className="panes grid h-full grid-cols-[minmax(420px,1fr)_minmax(420px,1fr)]">
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: the document is walked with the arrow keys */}
      <main className="flex h-full min-h-0 flex-col" tabIndex={0}>
        <div className="px-7 pt-5 pb-1">
          <Headline all={all} />
          <Tools slug={slug} onlyOpen={onlyOpen} setOnlyOpen={setOnlyOpen} setBeside={setBeside} />
          <DocumentFaults faults={view.faults} />
        </div>
        <RequirementList requirements={listed} selected={requirement?.id} select={select} version={version} />
      </main>
      <aside className="flex h-full min-h-0 flex-col border-rule border-l bg-sheet" aria-label="Reading">
        <SaveLine slug={slug} drafts={drafts} faults={view.faults.length} path={requirement?.file ?? ''} />
        <div className="min-h-0 flex-1 overflow-y-auto px-7 pt-5 pb-12">
          {(beside === 'bring in' || all.length === 0) && <BringIn files={drafts.files} take={drafts.editAll} close={showReading} />}
          {beside === 'against' && <AgainstEachOther slug={slug} revision={revision} select={select} close={showReading} />}
          {requirement && beside === 'reading' && (
            <ReadingPane
              slug={slug}
              requirement={requirement}
              row={rows.find((row) => row.id === requirement.id)}
              reading={reading}
              work={work}
              view={view}
              version={version}
            />
          )}
        </div>
      </aside>
    </div>
  );
}

function isOpen({ state }: RequirementView): boolean {
  return state === 'not read yet' || state === 'to confirm';
}

/** From the chosen requirement to its neighbours in the list, and to the next of all that is still to be read. */
function walking(
  listed: readonly RequirementView[],
  all: readonly RequirementView[],
  from: RequirementView | undefined,
  select: (id: string | undefined) => void,
): Pick<Acts, 'step' | 'next'> {
  return {
    step: (by) => {
      const index = from ? listed.indexOf(from) : -1;
      select(listed[Math.max(0, Math.min(listed.length - 1, index + by))]?.id);
    },
    next: () => {
      const index = from ? all.indexOf(from) : -1;
      const next = [...all.slice(index + 1), ...all.slice(0, index)].find(isOpen);
      if (next) select(next.id);
    },
  };
}

interface ToolsProps {
  readonly slug: string;
  readonly onlyOpen: boolean;
  readonly setOnlyOpen: (only: boolean) => void;
  readonly setBeside: (pane: 'bring in' | 'against') => void;
}

function Tools({ slug, onlyOpen, setOnlyOpen, setBeside }: ToolsProps) {
  return (
    <div className="mt-2 flex flex-wrap items-center gap-2 text-[13px] text-soft">
      <label className="mr-auto flex items-center gap-1.5">
        <input type="checkbox" checked={onlyOpen} onChange={(event) => setOnlyOpen(event.target.checked)} />
        only those still to be read
      </label>
      <button type="button" className="act" onClick={() => setBeside('bring in')}>
        Bring in …
      </button>
      <TakeOut slug={slug} />
      <button type="button" className="act" onClick={() => setBeside('against')}>
        Contradictions
      </button>
    </div>
  );
}

function DocumentFaults({ faults }: Pick<RequirementsInspection, 'faults'>) {
  return faults.map(({ place, message, fix }) => (
    <p key={`${place.file}:${place.line}:${message}`} className="mt-1 text-[13px] text-fail">
      {place.file}:{place.line} {message} <span className="text-soft">{fix}</span>
    </p>
  ));
}

/** Keys mean something only where nothing is being written, and where no button beside the document is what they press. */
function isMeant({ target, key, ctrlKey, metaKey, altKey }: KeyboardEvent): boolean {
  if (ctrlKey || metaKey || altKey || !(target instanceof HTMLElement) || target.closest('[role=dialog]')) return false;
  if (target.isContentEditable || /^(?:INPUT|SELECT|TEXTAREA)$/.test(target.tagName)) return false;
  return key !== 'Enter' || !/^(?:BUTTON|A)$/.test(target.tagName) || target.closest('main') !== null;
}

/** Keys work wherever in the place one is, also after the button that was pressed has gone. */
function useKeys(acts: Acts): void {
  const now = useRef(acts);
  now.current = acts;
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const act = isMeant(event) ? keys(event.key, now.current) : undefined;
      if (!act) return;
      event.preventDefault();
      act();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}

interface Acts {
  readonly step: (by: number) => void;
  readonly accept: () => void;
  readonly edit: () => void;
  readonly reject: () => void;
  readonly next: () => void;
  readonly choose: (index: number) => void;
}

function keys(key: string, acts: Acts): (() => void) | undefined {
  if (/^[1-9]$/.test(key)) return () => acts.choose(Number(key) - 1);
  switch (key) {
    case 'ArrowDown':
      return () => acts.step(1);
    case 'ArrowUp':
      return () => acts.step(-1);
    case 'Enter':
      return acts.accept;
    case 'e':
    case 'E':
      return acts.edit;
    case 'x':
    case 'X':
      return acts.reject;
    case 'n':
    case 'N':
      return acts.next;
    default:
      return undefined;
  }
}

function Headline({ all }: { readonly all: readonly RequirementView[] }) {
  const unread = all.filter(isOpen).length;
  if (all.length === 0) return <h1 className="headline">There are no requirements yet</h1>;
  return (
    <h1 className="headline">
      {unread > 0 ? (
        <>
          {unread} of {all.length} <strong className="font-semibold">still to be read</strong>
        </>
      ) : (
        <>
          <strong className="font-semibold">All {plural(all.length, 'requirement')}</strong> have been read
        </>
      )}
    </h1>
  );
}
