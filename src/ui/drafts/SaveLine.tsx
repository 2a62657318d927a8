'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { plural } from '@/core';
import { saveRevision } from './saveRevision';
import type { useDrafts } from './useDrafts';

interface SaveLineProps {
  readonly slug: string;
  readonly revision: number;
  readonly drafts: ReturnType<typeof useDrafts>;
  readonly faults: number;
  readonly path: string;
}

/** Above the text: how far the drafts are from the revision, undo, redo and save. */
export function SaveLine({ slug, revision, drafts, faults, path }: SaveLineProps) {
  const router = useRouter();
  const [answer, setAnswer] = useState<string>();
  const changed = drafts.changed.size;
  const save = async (): Promise<void> => {
    const result = await saveRevision(
      slug,
      revision,
      [...drafts.changed].map(([file, text]) => ({ path: file, text })),
    );
    if (typeof result === 'string') {
      setAnswer(result);
      return;
    }
    setAnswer(`Saved as revision ${result.revision}.`);
    drafts.saved();
    router.refresh();
  };
  return (
    <div className="flex flex-wrap items-center gap-2 border-rule border-b px-4 py-1.5">
      <span className="truncate text-[12.5px] text-soft">{path}</span>
      <span className="ml-auto whitespace-nowrap text-[12.5px] text-soft" role="status">
        {changed > 0 ? `${plural(changed, 'draft')}${faults > 0 ? `, ${plural(faults, 'fault')}` : ''}` : (answer ?? 'as saved')}
      </span>
      <button type="button" className="act" disabled={!drafts.canUndo} onClick={drafts.undo}>
        Undo
      </button>
      <button type="button" className="act" disabled={!drafts.canRedo} onClick={drafts.redo}>
        Redo
      </button>
      <button type="button" className="act" disabled={changed === 0 || faults > 0} onClick={() => void save()}>
        Save
      </button>
      {changed > 0 && answer && <p className="w-full text-[12.5px] text-fail">{answer}</p>}
    </div>
  );
}
