'use client';
import { type Ref, useEffect, useMemo, useRef } from 'react';
import type { Ledger, LedgerRow } from '@/core/evidence';
import { plural } from '@/core/wording';
import { mostWhole, useLongList } from '../hooks/useLongList';
import { MarginBar } from '../parts/MarginBar';

interface LedgerRowsProps {
  readonly rows: readonly LedgerRow[];
  readonly stages: Ledger['stages'];
  readonly selected: string | undefined;
  readonly select: (id: string) => void;
  /** What scrolls around the table. */
  readonly pane: HTMLElement | null;
}

type Item = { readonly k: 'section'; readonly name: string } | { readonly k: 'row'; readonly row: LedgerRow };

/** The body of the ledger's table: a line for each section and each requirement. */
export function LedgerRows({ rows, stages, selected, select, pane }: LedgerRowsProps) {
  const body = useRef<HTMLTableSectionElement>(null);
  const items = useMemo(
    () =>
      rows.flatMap((row, index): Item[] => [
        ...(row.section === rows[index - 1]?.section ? [] : [{ k: 'section' as const, name: row.section }]),
        { k: 'row', row },
      ]),
    [rows],
  );
  const { virtual, shown, before, after } = useLongList<HTMLTableRowElement>({
    count: items.length,
    pane: () => pane,
    estimate: (index) => (items[index]?.k === 'section' ? 44 : 62),
    keyOf: (index) => keyOf(items[index]),
    firstHeight: 900,
    margin: body.current?.offsetTop ?? 0,
  });
  const columns = 2 + stages.length;
  const at = items.findIndex((one) => one.k === 'row' && one.row.id === selected);
  const chosenAtFirst = useRef(at);
  // A link to a requirement far down opens the ledger there.
  useEffect(() => {
    if (!pane) return;
    if (items.length > mostWhole && chosenAtFirst.current > 0) virtual.scrollToIndex(chosenAtFirst.current, { align: 'center' });
    chosenAtFirst.current = -1;
  }, [items.length, virtual, pane]);
  return (
    <tbody ref={body}>
      <Space height={before} columns={columns} />
      {shown.map(({ index, key }) => {
        const item = items[index];
        if (!item) return null;
        return item.k === 'section' ? (
          <tr key={key} ref={virtual.measureElement} data-index={index}>
            <th colSpan={columns} scope="colgroup" className="pt-4 pb-1.5 pl-2.5 text-left font-semibold text-soft">
              {item.name}
            </th>
          </tr>
        ) : (
          <Row key={key} measure={virtual.measureElement} index={index} row={item.row} isSelected={item.row.id === selected} select={select} />
        );
      })}
      <Space height={after} columns={columns} />
    </tbody>
  );
}

interface RowProps {
  readonly measure: Ref<HTMLTableRowElement>;
  readonly index: number;
  readonly row: LedgerRow;
  readonly isSelected: boolean;
  readonly select: (id: string) => void;
}

function Row({ measure, index, row, isSelected, select }: RowProps) {
  return (
    <tr
      ref={measure}
      data-index={index}
      id={`row-${row.id}`}
      aria-selected={isSelected}
      className={`cursor-pointer border-rule border-b align-top ${isSelected ? 'bg-tint shadow-[inset_3px_0_0_var(--ink)]' : 'hover:bg-sheet'}`}
      onClick={() => select(row.id)}
    >
      <td className="figure whitespace-nowrap py-2.5 pl-2.5 text-soft max-md:pr-2">{row.id}</td>
      <td className="prose-line py-2 pr-4">{row.text}</td>
      {row.stages ? (
        row.stages.map((one) => (
          <td key={one.stage} className="py-2 pr-2">
            <MarginBar result={one.result} outOfDate={one.outOfDate} />
            {one.stage === 'model' && <ClaimLine claims={row.claims} />}
          </td>
        ))
      ) : (
        <td className="py-2 pr-2">
          <MarginBar result={row.result} outOfDate={row.outOfDate?.before} />
          <ClaimLine claims={row.claims} />
        </td>
      )}
    </tr>
  );
}

/** In how many runs of campaigns it fails: beside the verdict, which is that of the cases. */
function ClaimLine({ claims }: { readonly claims: LedgerRow['claims'] }) {
  const current = claims.filter((one) => one.isCurrent);
  const decided = current.reduce((sum, one) => sum + one.decided, 0);
  const failed = current.reduce((sum, one) => sum + one.failed, 0);
  if (decided === 0) return null;
  return (
    <div className={`text-[12px] ${failed > 0 ? 'text-fail' : 'text-soft'}`}>
      {failed > 0 ? `fails in ${failed} of ${plural(decided, 'run')}` : `passes in ${plural(decided, 'run')}`}
    </div>
  );
}

function keyOf(item: Item | undefined): string {
  if (!item) return '';
  return item.k === 'section' ? `section ${item.name}` : item.row.id;
}

/** Stands for the lines that are not on the page. */
function Space({ height, columns }: { readonly height: number; readonly columns: number }) {
  return height > 0.5 ? (
    <tr>
      <td colSpan={columns} style={{ height, padding: 0 }} />
    </tr>
  ) : null;
}
