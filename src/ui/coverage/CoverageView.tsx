'use client';
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import type { CoverageReport } from '@/core/coverage';
import type { SourceFile } from '@/core/documents';
import { plural } from '@/core/wording';
import { caseFiles } from '../cases/editor/caseFiles';
import { FindCase } from '../cases/editor/FindCase';
import { useDrafts } from '../drafts/useDrafts';
import { useAsked } from '../hooks/useAsked';
import { type Revision, useFilesOf } from '../hooks/useRevision';
import { Choice } from '../parts/Choice';
import { Touched } from './Touched';

interface CoverageProps {
  readonly slug: string;
  readonly newest: Revision;
}

/** What the cases touch of the logic and what none of them does; cases can be looked for that do. */
export function CoverageView({ slug, newest }: CoverageProps) {
  const router = useRouter();
  const files = useFilesOf(newest);
  const drafts = useDrafts(slug, newest.revision, files);
  const ask = useMemo(() => ({ files: drafts.files }), [drafts.files]);
  const { found, problem, waiting } = useAsked('coverage', ask);
  const [chosen, setChosen] = useState<string>();
  const loop = chosen ?? found?.loops[0];
  const take = (cases: readonly SourceFile[]): void => {
    drafts.editAll(cases);
    const [first] = caseFiles(cases);
    if (first) router.push(`/p/${slug}/cases/edit?case=${encodeURIComponent(first.name)}`);
  };
  return (
    <main className="h-full overflow-y-auto px-6 pt-5 pb-12">
      <h1 className="headline">{problem ?? (found ? headline(found.report, found.cases) : 'Running all cases …')}</h1>
      {waiting && found && <p className="text-soft">Running all cases …</p>}
      {found && loop !== undefined && (
        <>
          <div className="flex flex-wrap items-end gap-x-5">
            {found.loops.length > 1 && <Choice label="Loop" value={loop} options={found.loops} choose={setChosen} />}
            <FindCase aim={{ loop }} words="Find cases for what is missing" files={drafts.files} take={take} />
          </div>
          <Touched report={found.report} />
        </>
      )}
    </main>
  );
}

function headline({ items, conditions }: CoverageReport, cases: number): string {
  const s = cases === 1 ? 's' : '';
  const share = (kind: string, verb: string, what: string): string[] => {
    const own = items.filter((one) => one.kind === kind);
    return own.length === 0 ? [] : [`${verb}${s} ${own.filter((one) => one.count > 0).length} of ${plural(own.length, what)}`];
  };
  const decided =
    conditions.length === 0
      ? []
      : [`show${s} ${conditions.filter((one) => one.shown).length} of ${plural(conditions.length, 'condition')} to decide`];
  const parts = [
    ...share('state', 'enter', 'state'),
    ...share('transition', 'take', 'transition'),
    ...share('outcome', 'see', 'outcome'),
    ...decided,
  ];
  if (parts.length === 0) return 'There is no sampled logic that cases could touch.';
  const [last, ...others] = [...parts].reverse();
  return `${plural(cases, 'case')} ${others.length > 0 ? `${others.reverse().join(', ')} and ` : ''}${last}.`;
}
