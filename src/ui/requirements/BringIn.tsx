'use client';
import { useEffect, useRef, useState } from 'react';
import type { SourceFile } from '@/core/documents';
import { type Brought, type BroughtIn, type Difference, type TableField, tableFields } from '@/core/requirements';
import { plural } from '@/core/wording';
import { askEngine } from '../engine/engine';
import { readFile, rememberMapping } from './readFile';
import { WordChanges } from './WordChanges';

interface BringInProps {
  readonly files: readonly SourceFile[];
  /** Takes the changed documents into the drafts. */
  readonly take: (files: readonly SourceFile[]) => void;
  readonly close: () => void;
}

const fieldNames: Readonly<Record<TableField, string>> = {
  id: 'id',
  text: 'text',
  section: 'section',
  source: 'source',
  level: 'level',
  verifyBy: 'verified by',
};

/** Requirements from outside: pasted, or from a file. What they would do to the project is shown while one types; nothing happens before it is taken over. */
export function BringIn({ files, take, close }: BringInProps) {
  const [brought, setBrought] = useState<Brought>({ k: 'prose', text: '' });
  const [keep, setKeep] = useState<SourceFile>();
  const [problem, setProblem] = useState<string>();
  const [withRemoved, setWithRemoved] = useState(false);
  const found = useBroughtIn(files, brought);
  const differences = (found?.differences ?? []).filter((one) => one.k !== 'removed' || withRemoved);
  const open = async (chosen: File | undefined): Promise<void> => {
    if (!chosen) return;
    const read = await readFile(chosen);
    setProblem(typeof read === 'string' ? read : undefined);
    if (typeof read === 'string') return;
    setBrought(read.brought);
    setKeep(read.keep);
  };
  const takeOver = async (): Promise<void> => {
    const changed = await askEngine('take in', { files, differences });
    if (brought.k === 'table') rememberMapping(brought.table, brought.mapping);
    take([...changed, ...(keep ? [keep] : [])]);
    close();
  };
  return (
    <section aria-label="Bring in requirements">
      <h2 className="font-semibold">Bring in requirements</h2>
      <OpenFile open={(chosen) => void open(chosen)} />
      {brought.k === 'prose' && (
        <textarea
          className="mt-3 h-40 w-full rounded border border-rule bg-ground p-3 font-serif text-[15px] leading-snug"
          aria-label="Requirement text"
          value={brought.text}
          onChange={(event) => setBrought({ k: 'prose', text: event.target.value })}
        />
      )}
      {brought.k === 'table' && <Columns brought={brought} set={setBrought} />}
      {(problem ?? found?.problem) && (
        <p role="alert" className="mt-2 text-fail">
          {problem ?? found?.problem}
        </p>
      )}
      {found && !found.problem && <Summary found={found} withRemoved={withRemoved} setWithRemoved={setWithRemoved} />}
      <div className="mt-3 flex gap-2">
        <button type="button" className="act act-first" disabled={differences.length === 0} onClick={() => void takeOver()}>
          Take over
        </button>
        <button type="button" className="act" onClick={close}>
          Close
        </button>
      </div>
      <Differences differences={differences} />
    </section>
  );
}

function OpenFile({ open }: { readonly open: (file: File | undefined) => void }) {
  const file = useRef<HTMLInputElement>(null);
  return (
    <>
      <p className="mt-1 text-[13px] text-soft">
        Paste them below, one per line or paragraph; headings (#) are sections, and an id may come first. Or{' '}
        <button type="button" className="underline decoration-rule underline-offset-4" onClick={() => file.current?.click()}>
          open a file
        </button>{' '}
        (.md, .txt, .csv, .xlsx, .reqif). If you bring in a document again, it is compared with what is there.
      </p>
      <input
        ref={file}
        type="file"
        className="sr-only"
        aria-label="File of requirements"
        accept=".md,.markdown,.txt,.csv,.xlsx,.reqif,.xml"
        onChange={(event) => {
          open(event.target.files?.[0]);
          event.target.value = '';
        }}
      />
    </>
  );
}

function Differences({ differences }: { readonly differences: readonly Difference[] }) {
  return (
    <>
      <ul className="mt-4">
        {differences.slice(0, mostShown).map((one) => {
          const id = 'item' in one ? one.item.id : one.id;
          return (
            <li key={`${one.k} ${id}`} className="grid grid-cols-[76px_70px_1fr] border-rule border-b py-1.5">
              <span className="figure text-soft">{id}</span>
              <span className="text-[13px] text-soft">{one.k}</span>
              <span className="font-serif text-[15px] leading-snug">
                <Change difference={one} />
              </span>
            </li>
          );
        })}
      </ul>
      {differences.length > mostShown && <p className="mt-1 text-soft">and {differences.length - mostShown} more</p>}
    </>
  );
}

const mostShown = 100;

function useBroughtIn(files: readonly SourceFile[], brought: Brought): BroughtIn | undefined {
  const [found, setFound] = useState<BroughtIn>();
  const isEmpty = brought.k !== 'table' && brought.text.trim() === '';
  useEffect(() => {
    let wanted = true;
    if (!isEmpty) void askEngine('bring in', { files, brought }).then((answer) => wanted && setFound(answer));
    return () => {
      wanted = false;
    };
  }, [files, brought, isEmpty]);
  return isEmpty ? undefined : found;
}

function Summary({
  found,
  withRemoved,
  setWithRemoved,
}: {
  readonly found: BroughtIn;
  readonly withRemoved: boolean;
  readonly setWithRemoved: (value: boolean) => void;
}) {
  const count = (k: Difference['k']): number => found.differences.filter((one) => one.k === k).length;
  const accepted = found.differences.reduce((sum, one) => sum + (one.k === 'changed' ? one.accepted : 0), 0);
  return (
    <div className="mt-2 text-[13px]" role="status">
      <p>
        {plural(count('new'), 'new requirement')}, {count('changed')} changed, {count('moved')} moved, {found.unchanged} as before.
        {accepted > 0 && ` ${plural(accepted, 'accepted criterion', 'accepted criteria')} of changed ones will have to be confirmed again.`}
      </p>
      {found.doubled.length > 0 && <p className="text-fail">Duplicate, only the first counts: {found.doubled.join(', ')}.</p>}
      {count('removed') > 0 && (
        <label className="mt-1 flex items-center gap-1.5">
          <input type="checkbox" checked={withRemoved} onChange={(event) => setWithRemoved(event.target.checked)} />
          also remove the {count('removed')} that it does not have
        </label>
      )}
    </div>
  );
}

function Change({ difference }: { readonly difference: Difference }) {
  switch (difference.k) {
    case 'new':
      return difference.item.text;
    case 'moved':
      return `from “${difference.before}” to “${difference.item.section}”`;
    case 'removed':
      return <s>{difference.text}</s>;
    case 'changed':
      return <WordChanges words={difference.words} />;
  }
}

function Columns({ brought, set }: { readonly brought: Brought & { k: 'table' }; readonly set: (brought: Brought) => void }) {
  const { table, mapping } = brought;
  return (
    <dl className="mt-3 grid grid-cols-[110px_1fr] gap-y-1">
      {tableFields.map((field) => (
        <div key={field} className="contents">
          <dt className="py-1 text-soft">{fieldNames[field]}</dt>
          <dd>
            <select
              className="rounded border border-rule bg-sheet px-1.5 py-1 text-[13px]"
              aria-label={`Column for ${fieldNames[field]}`}
              value={mapping[field] ?? ''}
              onChange={(event) => {
                const { [field]: _, ...others } = mapping;
                set({ ...brought, mapping: event.target.value === '' ? others : { ...others, [field]: event.target.value } });
              }}
            >
              <option value="">in no column</option>
              {table.headings.map((heading) => (
                <option key={heading}>{heading}</option>
              ))}
            </select>
          </dd>
        </div>
      ))}
    </dl>
  );
}
