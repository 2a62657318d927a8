'use client';
import Link from 'next/link';
import { Fragment } from 'react';
import type { LedgerRow } from '@/core';
import { MarginBar } from '../state/MarginBar';
import { Sentence } from '../state/Sentence';
import { useAddress } from '../state/useAddress';
import { useWalk } from '../state/useWalk';
import { plural } from '../state/words';

/** The requirements as a document to be read, each with the criteria it was read into. */
export function RequirementsView({ slug, rows }: { readonly slug: string; readonly rows: readonly LedgerRow[] }) {
  const [at, setAt] = useAddress('at');
  const selected = rows.find((row) => row.id === at) ?? rows[0];
  const onKeyDown = useWalk(
    rows.map((row) => row.id),
    selected?.id,
    setAt,
  );
  const unread = rows.filter((row) => row.result.reason === 'not read yet').length;
  return (
    <div className="grid h-full grid-cols-[minmax(420px,1fr)_minmax(420px,1fr)]">
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: the document is walked with the arrow keys */}
      <main className="h-full overflow-y-auto px-7 pt-5 pb-12" tabIndex={0} onKeyDown={onKeyDown}>
        <h1 className="headline">
          {unread > 0 ? (
            <>
              {unread} of {rows.length} <strong className="font-semibold">still to be read</strong>
            </>
          ) : (
            <>
              <strong className="font-semibold">All {plural(rows.length, 'requirement')}</strong> have been read
            </>
          )}
        </h1>
        {rows.map((row, index) => (
          <Fragment key={row.id}>
            {row.section !== rows[index - 1]?.section && <h2 className="mt-6 mb-1 font-semibold text-soft">{row.section}</h2>}
            <button
              type="button"
              id={`row-${row.id}`}
              aria-pressed={row.id === selected?.id}
              onClick={() => setAt(row.id)}
              className={`grid w-full grid-cols-[76px_1fr] border-rule border-b py-3 pr-3 pl-3 text-left ${row.id === selected?.id ? 'bg-sheet shadow-[inset_3px_0_0_var(--ink)]' : ''}`}
            >
              <span className="figure pt-1 text-soft">{row.id}</span>
              <span>
                <span className="block font-serif text-[17px] leading-snug">{row.text}</span>
                <span className="mt-1 block text-[13px] text-soft">{reading(row)}</span>
              </span>
            </button>
          </Fragment>
        ))}
      </main>
      <aside className="h-full overflow-y-auto border-rule border-l bg-sheet px-7 pt-6 pb-12" aria-label="Reading">
        {selected && <Reading slug={slug} row={selected} />}
      </aside>
    </div>
  );
}

function reading(row: LedgerRow): string {
  if (row.criteria.length === 0)
    return row.result.reason.startsWith('not tested') ? row.result.reason : `not read yet${row.note ? ` — ${row.note}` : ''}`;
  const accepted = row.criteria.filter((one) => one.accepted).length;
  return accepted === row.criteria.length ? `read · ${plural(accepted, 'criterion', 'criteria')} accepted` : 'read · to confirm';
}

function Reading({ slug, row }: { readonly slug: string; readonly row: LedgerRow }) {
  return (
    <>
      <h2>
        <strong>{row.id}</strong>{' '}
        <span className="text-soft">
          {row.criteria.length > 0 ? `as ${row.criteria.length === 1 ? 'a criterion' : `${row.criteria.length} criteria`}` : 'has no criterion'}
        </span>
      </h2>
      {row.criteria.length === 0 && (
        <p className="prose-line mt-3">
          {row.note ||
            'A criterion is one machine-checkable sentence, such as: when request rises, within 2 s motor_on. It is written under criteria: in the requirement’s document.'}
        </p>
      )}
      {row.criteria.map((criterion) => {
        const state = row.result.criteria.find((one) => one.name === criterion.name);
        return (
          <section key={criterion.name} className="mt-5">
            <h3 className="font-semibold">{criterion.name}</h3>
            <div className="mt-1.5 border-key border-l-[3px] bg-tint px-3 py-2">
              <Sentence text={criterion.sentence} />
            </div>
            <p className="figure mt-2 text-soft">{criterion.stl}</p>
            <p className="mt-1 text-[13px] text-soft">
              {criterion.accepted ? 'accepted' : 'proposed: counts for nothing until it is accepted'}
              {state ? ` · ${plural(state.obligations, 'obligation')} in the newest runs` : ''}
            </p>
          </section>
        );
      })}
      <section className="mt-7 flex items-center gap-6 border-rule border-t pt-4">
        <MarginBar result={row.result} outOfDate={row.outOfDate} />
        <Link className="act" href={`/p/${slug}?at=${encodeURIComponent(row.id)}`}>
          Why?
        </Link>
        <span className="ml-auto text-soft">{row.source}</span>
      </section>
    </>
  );
}
