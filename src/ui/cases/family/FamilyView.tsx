'use client';
import Link from 'next/link';
import { useMemo, useState } from 'react';
import type { Family, LeftGoal } from '@/core/design';
import type { SourceFile } from '@/core/documents';
import { plural } from '@/core/wording';
import { useJustified } from '../../coverage/useJustified';
import { SaveLine } from '../../drafts/SaveLine';
import { useDrafts } from '../../drafts/useDrafts';
import { useUndoKeys } from '../../drafts/useUndoKeys';
import { useAddress } from '../../hooks/useAddress';
import { useNewest } from '../../hooks/useNewest';
import { type Revision, useFilesOf } from '../../hooks/useRevision';
import { caseFiles } from '../editor/caseFiles';
import { FindCase } from '../editor/FindCase';
import { FamilyRows } from './FamilyRows';
import { FoundCase } from './FoundCase';
import { useFound } from './useFound';

/** What cases would have to show of a requirement, which of it they do, and cases that are found for the rest. */
export function FamilyView({ slug, newest }: Omit<FamilyOfProps, 'requirement'>) {
  const [requirement] = useAddress('for');
  return requirement === undefined ? (
    <main className="px-6 pt-4">
      <h1 className="headline">Choose a requirement in the ledger to derive cases for it.</h1>
      <Link href={`/p/${slug}`} className="act act-first mt-3 inline-block">
        Open the ledger
      </Link>
    </main>
  ) : (
    <FamilyOf slug={slug} newest={newest} requirement={requirement} />
  );
}

interface FamilyOfProps {
  readonly slug: string;
  readonly newest: Revision;
  readonly requirement: string;
}

function FamilyOf({ slug, newest, requirement }: FamilyOfProps) {
  const drafts = useDrafts(slug, newest.revision, useFilesOf(newest));
  const [kept, changeFound] = useFound(slug, requirement);
  // One that has been taken over elsewhere meanwhile is no longer offered.
  const found = useMemo(() => kept.filter(({ path }) => !drafts.files.some((one) => one.path === path)), [kept, drafts.files]);
  const [left, setLeft] = useState<readonly LeftGoal[]>([]);
  const ask = useMemo(() => {
    const drawn = caseFiles(found).map(({ name }) => name);
    return { files: [...drafts.files, ...found], requirement, drawn };
  }, [drafts.files, found, requirement]);
  const { found: shown, problem, waiting } = useNewest('family', ask);
  useUndoKeys(drafts.undo, drafts.redo);
  // Once something was taken over here, the line stays: it says that it was saved.
  const [hasChanged, setHasChanged] = useState(false);
  const write = useJustified(drafts);
  const drop = (file: SourceFile): void => changeFound((all) => all.filter((one) => one !== file));
  const accept = (file: SourceFile): void => {
    setHasChanged(true);
    drafts.edit(file.path, file.text);
    drop(file);
  };
  const reject = (part: string, mark: string, reason: string): void => {
    setHasChanged(true);
    write(part, mark, reason);
  };
  const proposed = caseFiles(found).map(({ name }) => name);
  const wanted = shown && sought(shown.family);
  return (
    <main className="h-full overflow-y-auto px-6 pt-4 pb-12">
      <Link href={`/p/${slug}?at=${encodeURIComponent(requirement)}`} className="text-soft underline decoration-rule">
        {requirement} in the ledger
      </Link>
      {(hasChanged || drafts.changed.size > 0) && <SaveLine slug={slug} drafts={drafts} faults={0} path={[...drafts.changed.keys()].join(', ')} />}
      <h1 className="headline mt-2">
        {problem ?? (shown ? <Answer family={shown.family} proposed={proposed} /> : `${requirement}: running its cases …`)}
      </h1>
      {shown && <blockquote className="mt-1 font-serif text-[16px]">“{shown.family.text}”</blockquote>}
      {wanted !== undefined && (
        <FindCase aim={{ family: requirement }} words={wanted} files={drafts.files} take={(cases) => changeFound(() => cases)} tell={setLeft} />
      )}
      {shown && (
        <p className="mt-3 flex gap-4 text-[13px]">
          <Link className="underline decoration-rule" href={`/p/${slug}/cases/edit?for=${encodeURIComponent(requirement)}`}>
            Write a case
          </Link>
          <Link className="underline decoration-rule" href={`/p/${slug}/cases/edit?break=${encodeURIComponent(requirement)}`}>
            Try to break it
          </Link>
        </p>
      )}
      {waiting && shown && <p className="text-[13px] text-soft">running …</p>}
      {found.map((file) => (
        <FoundCase key={file.path} file={file} slug={slug} shown={shown} accept={() => accept(file)} drop={() => drop(file)} />
      ))}
      {shown && <FamilyRows slug={slug} family={shown.family} left={left} proposed={proposed} reject={reject} />}
    </main>
  );
}

/** What cases can be looked for: for goals that are neither reached nor rejected, or else some that meet the criteria with less margin. */
function sought({ criteria }: Family): string | undefined {
  const goals = criteria.flatMap((one) => one.goals).filter(({ rejected }) => !rejected);
  if (goals.some(({ kind, reachedBy }) => kind !== 'least' && reachedBy.length === 0)) return 'Derive cases for what is missing';
  return goals.some(({ kind }) => kind === 'least') ? 'Look for less margin' : undefined;
}

/** How much of it is reached, in a sentence. */
function Answer({ family, proposed }: { readonly family: Family; readonly proposed: readonly string[] }) {
  // A least margin is never reached for certain.
  const goals = family.criteria.flatMap((one) => one.goals.filter(({ kind }) => kind !== 'least'));
  const isReached = ({ reachedBy }: (typeof goals)[number]): boolean => reachedBy.some((one) => !proposed.includes(one.case));
  const reached = goals.filter(isReached).length;
  const rejected = goals.filter((goal) => goal.rejected && !isReached(goal)).length;
  const found = goals.filter((goal) => !isReached(goal) && goal.reachedBy.length > 0).length;
  return (
    <>
      <strong className="font-semibold">{family.requirement}:</strong> {reached} of {plural(goals.length, 'goal')} {reached === 1 ? 'is' : 'are'}{' '}
      reached
      {found > 0 && `; ${found} more by what was found`}
      {rejected > 0 && `; ${rejected} rejected`}.
    </>
  );
}
