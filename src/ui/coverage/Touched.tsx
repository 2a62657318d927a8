'use client';
import { useState } from 'react';
import type { ConditionItem, CoverageItem, CoverageReport } from '@/core/coverage';
import { plural } from '@/core/wording';

interface TouchedProps {
  readonly report: CoverageReport;
  /** What others touched, to be held against it. */
  readonly beside?: CoverageReport;
}

/** The parts of the logic by component: how often each was done, and what is missing, in words. */
export function Touched({ report, beside }: TouchedProps) {
  const [shows, setShows] = useState<'missing' | 'differs' | 'all'>('missing');
  const others = beside && new Map(rowsOf(beside).map((one) => [one.id, one]));
  const rows = rowsOf(report);
  const missing = rows.filter((one) => one.gap !== undefined);
  /** Done by one of the two alone. */
  const differing = rows.filter((one) => others && (one.gap === undefined) !== (others.get(one.id)?.gap === undefined && others.has(one.id)));
  const isDiffering = others !== undefined && shows === 'differs';
  const shown = isDiffering ? differing : shows === 'all' ? rows : missing;
  const components = [...new Set(shown.map((one) => one.component))];
  const show = (what: typeof shows, words: string, count: number) => (
    <button
      type="button"
      aria-pressed={shows === what}
      className="underline decoration-rule aria-pressed:font-bold aria-pressed:text-ink"
      onClick={() => setShows(what)}
    >
      {words} ({count})
    </button>
  );
  return (
    <>
      <p className="mt-4 flex flex-wrap gap-x-5 text-soft">
        {show('missing', 'missing', missing.length)}
        {others && show('differs', 'done by one of the two alone', differing.length)}
        {show('all', 'all', rows.length)}
      </p>
      {shown.length === 0 && (
        <p className="mt-3 font-serif text-[16px]">{isDiffering ? 'Both touch the same.' : 'Nothing is missing: every part was touched.'}</p>
      )}
      {components.map((component) => (
        <section key={component} className="mt-4" aria-label={component}>
          <h2 className="font-bold">{component}</h2>
          <table className="mt-1 w-full border-collapse">
            <tbody>
              {shown
                .filter((one) => one.component === component)
                .map((one) => (
                  <ItemRow key={one.id} row={one} other={others?.get(one.id)} isBeside={others !== undefined} />
                ))}
            </tbody>
          </table>
        </section>
      ))}
      <Unseen count={report.unseen.length} />
    </>
  );
}

function ItemRow({ row, other, isBeside }: { readonly row: Row; readonly other: Row | undefined; readonly isBeside: boolean }) {
  return (
    <tr className="border-rule border-b align-top">
      <td className="w-28 py-1.5 pr-3 text-soft">{row.kind}</td>
      <td className="py-1.5 pr-4">
        <span className="figure text-[13px]">{row.words}</span>
        {row.gap !== undefined && <span className="block text-lack">{row.gap}</span>}
      </td>
      <td className="figure w-28 py-1.5 text-right text-soft">{row.told}</td>
      {isBeside && <td className="figure w-36 py-1.5 text-right text-soft">beside: {other?.told ?? 'not there'}</td>}
    </tr>
  );
}

function Unseen({ count }: { readonly count: number }) {
  if (count === 0) return null;
  return (
    <p className="mt-5 text-soft">
      {plural(count, 'decision')} {count === 1 ? 'is' : 'are'} counted by {count === 1 ? 'its' : 'their'} outcomes only: a condition may end the run,
      or there are more than ten.
    </p>
  );
}

interface Row {
  readonly id: string;
  readonly component: string;
  readonly kind: string;
  readonly words: string;
  readonly told: string;
  readonly gap: string | undefined;
}

function rowsOf({ items, conditions }: CoverageReport): Row[] {
  return [...items.map(itemRow), ...conditions.map(conditionRow)];
}

function itemRow({ id, component, kind, words, count, gap }: CoverageItem): Row {
  // States and transitions stand with the chart they are of.
  const of = kind === 'state' ? (component.split('.')[0] ?? component) : component;
  return { id, component: of, kind, words, told: count > 0 ? `×${count}` : 'never', gap };
}

function conditionRow({ id, component, of, text, shown, gap }: ConditionItem): Row {
  return { id, component, kind: 'decides', words: `${text}  in  ${of}`, told: shown?.how ?? 'not shown', gap };
}
