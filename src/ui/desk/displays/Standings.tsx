'use client';
import type { Standing } from '@/core/desk';
import type { DeskCriterion } from '@/core/project';
import { marginWords, plural } from '@/core/wording';
import type { DeskLink } from '../session/DeskLink';
import { useLatest } from '../session/useDesk';

const [limit, width] = [40, 110];

/** The watched criteria as margin bars that move: the same sign as in the ledger, for this session alone. */
export function Standings({ link, criteria }: { readonly link: DeskLink; readonly criteria: readonly DeskCriterion[] }) {
  const { standings } = useLatest(link);
  if (criteria.length === 0) return null;
  return (
    <section aria-label="Watched criteria" className="mt-4">
      <h2 className="font-semibold">Watched here</h2>
      <p className="mb-1 text-[12px] text-soft">A run by hand can show a violation, but it is not evidence: make a case of it.</p>
      <ul>
        {criteria.map((one, index) => (
          <li
            key={`${one.requirement} ${one.name}`}
            className="grid grid-cols-[1fr_116px] items-center gap-2 border-rule border-t py-1"
            title={one.sentence}
          >
            <span className="leading-tight">
              <span className="figure">{one.requirement}</span> <span className="text-[12.5px] text-soft">{one.name}</span>
            </span>
            <Bar standing={standings[index]} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function Bar({ standing }: { readonly standing: Standing | undefined }) {
  const owed = standing ? standing.met + standing.broken + standing.open : 0;
  const state = !standing || owed === 0 ? 'not triggered' : standing.broken > 0 ? 'broken' : standing.met > 0 ? 'met so far' : 'open';
  const size = Math.abs(standing?.margin?.measure ?? 1);
  const share = size / (size + 1);
  return (
    <div role="img" aria-label={`${state}, ${plural(owed, 'obligation')}`}>
      <svg width={width} height={13} aria-hidden="true">
        {(state === 'not triggered' || state === 'open') && (
          <rect x={limit} y={2} width={46} height={9} fill="none" stroke="var(--lack)" strokeDasharray="3 3" />
        )}
        {state === 'met so far' && <rect x={limit} y={2} width={10 + share * 56} height={9} fill="var(--pass)" />}
        {state === 'broken' && <path d={`M${limit} 2H${limit - 6 - share * 24}l-5 4.5 5 4.5H${limit}z`} fill="var(--fail)" />}
        <line x1={limit} x2={limit} y1={0} y2={13} stroke="var(--ink)" strokeWidth={1.4} />
      </svg>
      <div className={`figure text-[11px] leading-tight ${state === 'broken' ? 'font-bold text-fail' : 'text-lack'}`}>
        {standing?.margin && owed > 0 ? `${marginWords(standing.margin)} ×${owed}` : state}
        {standing && standing.lost > 0 ? `, ${standing.lost} not followed` : ''}
      </div>
    </div>
  );
}
