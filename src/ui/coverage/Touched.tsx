'use client';
import { type ReactNode, useState } from 'react';
import type { ConditionItem, CoverageItem, CoverageReport } from '@/core/coverage';
import { plural } from '@/core/wording';
import { Justify } from './Justify';
import type { FoundCoverage } from './useCoverage';

interface TouchedProps {
  readonly report: CoverageReport;
  /** What others touched, to be held against it. */
  readonly beside?: CoverageReport;
  /** What has been said of gaps, and what stands for their logic. */
  readonly judged?: NonNullable<FoundCoverage['judged']>;
  /** Says why a part need not be touched. */
  readonly justify?: (part: string, logic: string, reason: string) => void;
  /** Looks for a case that touches a part. */
  readonly find: (part: string, loop: string) => ReactNode;
}

/** The parts of the logic by component: how often each was done, and what is missing, in words. */
export function Touched({ report, beside, judged, justify, find }: TouchedProps) {
  const [wanted, setWanted] = useState<Shown>('missing');
  const shows = beside || wanted === 'all' || wanted === 'alone' || wanted === 'unasked' || wanted === 'justified' ? wanted : 'missing';
  const others = beside && new Map(rowsOf(beside).map((one) => [one.id, one]));
  const rows = rowsOf(report);
  const isBeside = (row: Row): boolean => others?.has(row.id) === true && others.get(row.id)?.gap === undefined;
  const sorted: Readonly<Record<Shown, readonly Row[]>> = {
    missing: rows.filter((one) => one.gap !== undefined && !judged?.justified.has(one.id) && !judged?.unasked.has(one.id)),
    unasked: rows.filter((one) => judged?.unasked.has(one.id)),
    justified: rows.filter((one) => judged?.justified.has(one.id)),
    here: rows.filter((one) => one.gap === undefined && !isBeside(one)),
    beside: rows.filter((one) => one.gap !== undefined && isBeside(one)),
    alone: rows.filter((one) => judged?.alone.has(one.id)),
    all: rows,
  };
  const shown = sorted[shows];
  const components = [...new Set(shown.map((one) => one.component))];
  const show = (what: Shown, words: string) => (
    <button
      type="button"
      aria-pressed={shows === what}
      className="underline decoration-rule aria-pressed:font-bold aria-pressed:text-ink"
      onClick={() => setWanted(what)}
    >
      {words} ({sorted[what].length})
    </button>
  );
  return (
    <>
      <p className="mt-4 flex flex-wrap gap-x-5 text-soft">
        {show('missing', 'missing')}
        {others && show('here', 'touched only here')}
        {others && show('beside', 'touched only beside')}
        {judged && judged.alone.size > 0 && show('alone', 'touched by one case alone')}
        {judged && judged.unasked.size > 0 && show('unasked', judged.level === undefined ? 'not asked for' : `not asked for by ${judged.level}`)}
        {judged && judged.justified.size > 0 && show('justified', 'justified')}
        {show('all', 'all')}
      </p>
      {shown.length === 0 && <p className="mt-3 font-serif text-[16px]">{nothingWords[shows]}</p>}
      {components.map((component) => (
        <section key={component} className="mt-4" aria-label={component}>
          <h2 className="font-bold">{component}</h2>
          <table className="mt-1 w-full border-collapse">
            <tbody>
              {shown
                .filter((one) => one.component === component)
                .map((one) => (
                  <ItemRow
                    key={one.id}
                    row={one}
                    other={others?.get(one.id)}
                    isBeside={others !== undefined}
                    judged={judged}
                    justify={justify}
                    find={find}
                  />
                ))}
            </tbody>
          </table>
        </section>
      ))}
      <Uncounted count={judged?.uncounted ?? 0} />
      <Unseen count={report.unseen.length} />
    </>
  );
}

type Shown = 'missing' | 'unasked' | 'justified' | 'alone' | 'here' | 'beside' | 'all';

const nothingWords: Readonly<Record<Shown, string>> = {
  missing: 'Nothing is missing: every part was touched.',
  unasked: 'Everything is asked for.',
  justified: 'Nothing is justified.',
  alone: 'Each part is touched by more than one case, or by none.',
  here: 'Whatever is touched here is touched beside, too.',
  beside: 'Whatever is touched beside is touched here, too.',
  all: 'There is no sampled logic.',
};

interface ItemProps {
  readonly row: Row;
  readonly other: Row | undefined;
  readonly isBeside: boolean;
  readonly judged: TouchedProps['judged'];
  readonly justify: TouchedProps['justify'];
  readonly find: TouchedProps['find'];
}

function ItemRow({ row, other, isBeside, judged, justify, find }: ItemProps) {
  const [isSought, setSought] = useState(false);
  const why = judged?.justified.get(row.id);
  const lapsed = judged?.lapsed.get(row.id);
  const alone = judged?.alone.get(row.id);
  const never = judged?.unreachable.get(row.id);
  return (
    <tr className="border-rule border-b align-top">
      <td className="w-28 py-1.5 pr-3 text-soft">{row.kind}</td>
      <td className="py-1.5 pr-4">
        <span className="figure text-[13px]">{row.words}</span>
        {row.gap !== undefined && (
          <div className="text-lack">
            {row.gap} {never !== undefined && `It cannot be reached: ${never}. `}
            {!isSought && never === undefined && (
              <button type="button" className="mr-2 text-soft underline decoration-rule" onClick={() => setSought(true)}>
                Find a case
              </button>
            )}
            {!why && judged && justify && <Justify justify={(reason) => justify(row.id, judged.marks.get(row.id) ?? '', reason)} />}
            {isSought && find(row.id, row.loop)}
          </div>
        )}
        {why && (
          <span className="block">
            {why.reason} ({why.by}, {why.on})
          </span>
        )}
        {lapsed && (
          <span className="block font-serif text-lack italic">
            It was justified by {lapsed.by} on {lapsed.on}; its logic has changed since: “{lapsed.reason}”
          </span>
        )}
      </td>
      <td className="w-44 py-1.5 text-right text-soft">
        <span className="figure">{row.told}</span>
        {alone !== undefined && <span className="block text-[12px]">only by {alone}</span>}
      </td>
      {isBeside && <td className="figure w-36 py-1.5 text-right text-soft">beside: {other?.told ?? 'not there'}</td>}
    </tr>
  );
}

function Uncounted({ count }: { readonly count: number }) {
  if (count === 0) return null;
  return (
    <p className="mt-5 text-soft">
      {plural(count, 'case')} with co-simulation units {count === 1 ? 'is' : 'are'} not counted here: units do not run in a browser. Campaigns and
      ovrand coverage count {count === 1 ? 'it' : 'them'}.
    </p>
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
  readonly loop: string;
  readonly component: string;
  readonly kind: string;
  readonly words: string;
  readonly told: string;
  readonly gap: string | undefined;
}

function rowsOf({ items, conditions }: CoverageReport): Row[] {
  return [...items.map(itemRow), ...conditions.map(conditionRow)];
}

function itemRow({ id, loop, component, kind, words, count, gap }: CoverageItem): Row {
  // States and transitions stand with the chart they are of.
  const of = kind === 'state' ? (component.split('.')[0] ?? component) : component;
  return { id, loop, component: of, kind, words, told: count > 0 ? `×${count}` : 'never', gap };
}

function conditionRow({ id, loop, component, of, text, shown, gap }: ConditionItem): Row {
  return { id, loop, component, kind: 'decides', words: `${text}  in  ${of}`, told: shown?.how ?? 'not shown', gap };
}
