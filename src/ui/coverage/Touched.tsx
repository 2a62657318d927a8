'use client';
import { useState } from 'react';
import type { ConditionItem, CoverageItem, CoverageReport } from '@/core/coverage';
import { plural } from '@/core/wording';

/** The parts of the logic by component: how often each was done, and what is missing, in words. */
export function Touched({ report: { items, conditions, unseen } }: { readonly report: CoverageReport }) {
  const [onlyMissing, setOnlyMissing] = useState(true);
  const rows = [...items.map(itemRow), ...conditions.map(conditionRow)];
  const shown = onlyMissing ? rows.filter((one) => one.gap !== undefined) : rows;
  const components = [...new Set(shown.map((one) => one.component))];
  return (
    <>
      <label className="mt-4 flex items-center gap-1.5 text-soft">
        <input type="checkbox" checked={onlyMissing} onChange={(event) => setOnlyMissing(event.target.checked)} />
        only what is missing ({rows.filter((one) => one.gap !== undefined).length} of {rows.length})
      </label>
      {components.map((component) => (
        <section key={component} className="mt-4" aria-label={component}>
          <h2 className="font-bold">{component}</h2>
          <table className="mt-1 w-full border-collapse">
            <tbody>
              {shown
                .filter((one) => one.component === component)
                .map((one) => (
                  <tr key={one.id} className="border-rule border-b align-top">
                    <td className="w-28 py-1.5 pr-3 text-soft">{one.kind}</td>
                    <td className="py-1.5 pr-4">
                      <span className="figure text-[13px]">{one.words}</span>
                      {one.gap !== undefined && <span className="block text-lack">{one.gap}</span>}
                    </td>
                    <td className="figure w-24 py-1.5 text-right text-soft">{one.told}</td>
                  </tr>
                ))}
            </tbody>
          </table>
        </section>
      ))}
      {unseen.length > 0 && (
        <p className="mt-5 text-soft">
          {plural(unseen.length, 'decision')} {unseen.length === 1 ? 'is' : 'are'} counted by {unseen.length === 1 ? 'its' : 'their'} outcomes only: a
          condition may end the run, or there are more than ten.
        </p>
      )}
    </>
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

function itemRow({ id, component, kind, words, count, gap }: CoverageItem): Row {
  // States and transitions stand with the chart they are of.
  const of = kind === 'state' ? (component.split('.')[0] ?? component) : component;
  return { id, component: of, kind, words, told: count > 0 ? `×${count}` : 'never', gap };
}

function conditionRow({ id, component, of, text, shown, gap }: ConditionItem): Row {
  return { id, component, kind: 'decides', words: `${text}  in  ${of}`, told: shown?.how ?? 'not shown', gap };
}
