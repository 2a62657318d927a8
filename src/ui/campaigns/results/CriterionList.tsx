'use client';
import type { CriterionView } from '@/core/campaign';
import { figure, marginWords } from '@/core/wording';
import { useWalk } from '../../hooks/useWalk';
import { keyOf } from './criterionKey';

interface CriterionListProps {
  readonly criteria: readonly CriterionView[];
  readonly at: string | undefined;
  readonly choose: (key: string) => void;
}

/** All criteria that were watched: in how many of the runs that decide it each fails, and its least margin. */
export function CriterionList({ criteria, at, choose }: CriterionListProps) {
  const onKeyDown = useWalk(criteria.map(keyOf), at, choose);
  return (
    <nav aria-label="Criteria" className="h-full overflow-y-auto border-rule border-l bg-sheet px-3 pt-4 pb-10">
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: the list is walked with the arrow keys */}
      <ul tabIndex={0} onKeyDown={onKeyDown}>
        {criteria.map((one) => (
          <li key={keyOf(one)}>
            <button
              type="button"
              aria-current={keyOf(one) === at}
              onClick={() => choose(keyOf(one))}
              className={`w-full border-l-[3px] px-2.5 py-1.5 text-left ${keyOf(one) === at ? 'border-ink bg-tint' : 'border-transparent hover:bg-tint'}`}
            >
              <span className="flex items-baseline gap-2">
                <span className={one.figures ? 'truncate' : 'figure whitespace-nowrap'}>{one.requirement || one.criterion}</span>
                {one.isOneOfSeveral && <span className="truncate text-[12.5px] text-soft">{one.criterion}</span>}
                <span className={`figure ml-auto whitespace-nowrap ${one.failed > 0 ? 'font-bold text-fail' : 'text-soft'}`}>
                  {one.least ? marginWords(one.least) : ''}
                  {one.figures && `${figure(one.figures.median, 4)} ${one.figures.unit}`}
                </span>
              </span>
              {one.figures ? <span className="text-[12px] text-soft">in the median</span> : <Share of={one} />}
            </button>
          </li>
        ))}
      </ul>
    </nav>
  );
}

/** The runs side by side: failing ones to the left of a mark, passing ones to its right, those that decide nothing dashed. */
function Share({ of: { failed, passed, untriggered, inconclusive, errors, discounted } }: { readonly of: CriterionView }) {
  const open = untriggered + inconclusive + errors + discounted;
  const all = Math.max(1, failed + passed + open);
  const width = (count: number): string => `${(100 * count) / all}%`;
  return (
    <span className="mt-1 block">
      <span className="flex h-1.5 gap-px" aria-hidden="true">
        <span className="bg-fail" style={{ width: width(failed) }} />
        <span className="bg-pass" style={{ width: width(passed) }} />
        <span className="border border-lack border-dashed" style={{ width: width(open), display: open > 0 ? 'block' : 'none' }} />
      </span>
      <span className="text-[12px] text-soft">
        {failed + passed === 0 ? 'decided nowhere' : failed > 0 ? `fails in ${failed} of ${failed + passed}` : `passes in ${passed}`}
        {open > 0 && failed + passed > 0 ? `, ${open} decide nothing` : ''}
      </span>
    </span>
  );
}
