'use client';
import { useState } from 'react';
import type { SourceFile } from '@/core/documents';
import { FindCase } from '../cases/editor/FindCase';
import { useTaken } from '../cases/editor/useTaken';
import { SaveLine } from '../drafts/SaveLine';
import { useDrafts } from '../drafts/useDrafts';
import { useAddress } from '../hooks/useAddress';
import { type Revision, useFilesOf } from '../hooks/useRevision';
import { Choice } from '../parts/Choice';
import { coverageSentence } from './sentence';
import { Touched } from './Touched';
import { allCases, useCoverage } from './useCoverage';
import { useJustified } from './useJustified';

/** Where justifications are written. */
const place = 'coverage.yaml';

/** Runs of a campaign that can be looked at. */
interface CountedCampaign {
  readonly id: number;
  readonly words: string;
}

interface CoverageProps {
  readonly slug: string;
  readonly newest: Revision;
  readonly campaigns: readonly CountedCampaign[];
}

/** What the cases or the runs of a campaign touch of the logic and what none of them does; cases can be looked for that do, and two of them laid beside each other. */
export function CoverageView({ slug, newest, campaigns }: CoverageProps) {
  const drafts = useDrafts(slug, newest.revision, useFilesOf(newest));
  const [of = allCases, setOf] = useAddress('of');
  const [beside, setBeside] = useAddress('beside');
  const main = useCoverage(slug, drafts.files, of);
  const other = useCoverage(slug, drafts.files, beside);
  const options = [[allCases, 'all cases as they are written'] as const, ...campaigns.map(({ id, words }) => [String(id), words] as const)];
  const besides = options.filter(([id]) => id !== of);
  const take = useTaken(slug, drafts);
  const write = useJustified(drafts);
  // Once something was justified here, the line stays: it says that it was saved.
  const [hasJustified, setHasJustified] = useState(false);
  const justify = (part: string, logic: string, reason: string): void => {
    setHasJustified(true);
    write(part, logic, reason);
  };
  const waiting = of === allCases ? 'Running all cases …' : 'Looking the runs up …';
  return (
    <main className="h-full overflow-y-auto px-6 pt-5 pb-12">
      {(hasJustified || drafts.changed.has(place)) && <SaveLine slug={slug} drafts={drafts} faults={0} path={place} />}
      <h1 className="headline">{main.problem ?? (main.found ? coverageSentence(main.found) : waiting)}</h1>
      {main.waiting && main.found && <p className="text-soft">{waiting}</p>}
      {campaigns.length > 0 && (
        <div className="mt-2 flex flex-wrap items-center gap-x-5 gap-y-1 text-[13px] text-soft">
          <Choice
            label="Touched by"
            value={of}
            options={options}
            choose={(id) => {
              setOf(id === allCases ? undefined : id);
              if (id === beside) setBeside(undefined);
            }}
          />
          <Choice
            label="Beside"
            value={beside ?? ''}
            options={[['', 'nothing else'] as const, ...besides]}
            choose={(id) => setBeside(id === '' ? undefined : id)}
          />
        </div>
      )}
      {beside !== undefined && (
        <p className="mt-1 font-serif text-[15px]">Beside: {other.problem ?? (other.found ? coverageSentence(other.found) : 'looking it up …')}</p>
      )}
      {main.found && main.loops && <Finding key={main.loops[0]} loops={main.loops} files={drafts.files} take={take} />}
      {main.found && (
        <Touched
          report={main.found.report}
          {...(other.found ? { beside: other.found.report } : {})}
          {...(main.found.judged ? { judged: main.found.judged, justify } : {})}
          find={(part, loop) => <FindCase aim={{ loop, part }} words="Look for a case" files={drafts.files} take={take} />}
        />
      )}
    </main>
  );
}

/** Looks for cases that reach what no case reaches, a loop at a time. */
function Finding({
  loops,
  files,
  take,
}: {
  readonly loops: readonly string[];
  readonly files: readonly SourceFile[];
  readonly take: (cases: readonly SourceFile[]) => void;
}) {
  const [loop, setLoop] = useState(loops[0]);
  if (loop === undefined) return null;
  return (
    <div className="flex flex-wrap items-end gap-x-5">
      {loops.length > 1 && <Choice label="Loop" value={loop} options={loops} choose={setLoop} />}
      <FindCase aim={{ loop }} words="Find cases for what is missing" files={files} take={take} />
    </div>
  );
}
