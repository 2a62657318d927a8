'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { clashesOf, mergeLines, settledText } from '@/core/merge';
import { plural } from '@/core/wording';
import { Clashes, type Clashing } from './Clashes';
import { saveRevision } from './saveRevision';
import type { useDrafts } from './useDrafts';

interface SaveLineProps {
  readonly slug: string;
  readonly drafts: ReturnType<typeof useDrafts>;
  readonly faults: number;
  readonly path: string;
}

/** Above the text: how far the drafts are from the revision, undo, redo, merge and save. */
export function SaveLine({ slug, drafts, faults, path }: SaveLineProps) {
  const router = useRouter();
  const [answer, setAnswer] = useState<string>();
  const [saving, setSaving] = useState(false);
  const [clashing, setClashing] = useState<readonly Clashing[]>();
  const changed = drafts.changed.size;
  const { revision } = drafts.head;
  const save = async (): Promise<void> => {
    const sent = [...drafts.changed].map(([file, text]) => ({ path: file, text }));
    setSaving(true);
    const result = await saveRevision(slug, drafts.saveOn, sent);
    setSaving(false);
    if (typeof result === 'string') setAnswer(result);
    else {
      setAnswer(`Saved as revision ${result.revision}.`);
      drafts.saved(sent, result.revision);
    }
    // Refused or not, the page shows what is there now.
    router.refresh();
  };
  const merge = (): void => {
    const merging = mergingOf(drafts);
    const clashes = merging.some(({ pieces }) => clashesOf(pieces).length > 0);
    if (clashes) setClashing(merging);
    else take(merging.map(({ path: file, pieces }) => ({ path: file, text: settledText(pieces, (clash) => clash.mine) })));
  };
  const take = (files: readonly { readonly path: string; readonly text: string }[]): void => {
    drafts.merged(files);
    setClashing(undefined);
    setAnswer(`Merged with revision ${revision}. Check it, then save.`);
  };
  const begun = drafts.begun !== undefined && drafts.begun < revision ? `your draft, begun on revision ${drafts.begun}` : plural(changed, 'draft');
  return (
    <div className="flex flex-wrap items-center gap-2 border-rule border-b px-4 py-1.5">
      <span className="truncate text-[12.5px] text-soft">{path}</span>
      <span className="ml-auto whitespace-nowrap text-[12.5px] text-soft" role="status">
        {changed > 0 ? `${begun}${faults > 0 ? `, ${plural(faults, 'fault')}` : ''}` : (answer ?? 'as saved')}
      </span>
      <button type="button" className="act" disabled={!drafts.canUndo} onClick={drafts.undo}>
        Undo
      </button>
      <button type="button" className="act" disabled={!drafts.canRedo} onClick={drafts.redo}>
        Redo
      </button>
      {drafts.overtaken.length > 0 ? (
        <button type="button" className="act" onClick={merge}>
          Merge with revision {revision}
        </button>
      ) : (
        <button type="button" className="act" disabled={changed === 0 || faults > 0 || saving} onClick={() => void save()}>
          Save
        </button>
      )}
      <Notes drafts={drafts} answer={changed > 0 ? answer : undefined} />
      {clashing && <Clashes clashing={clashing} revision={revision} take={take} close={() => setClashing(undefined)} />}
    </div>
  );
}

/** Documents that somebody else has changed meanwhile, each merged line by line with its draft. */
function mergingOf({ overtaken, texts, text, head }: SaveLineProps['drafts']): Clashing[] {
  return overtaken.map((path) => ({ path, pieces: mergeLines(texts.get(path)?.base ?? '', text(path), head.text(path)) }));
}

/** What there is to know before the next save. */
function Notes({ drafts, answer }: Pick<SaveLineProps, 'drafts'> & { readonly answer: string | undefined }) {
  return (
    <>
      {drafts.overtaken.length > 0 && (
        <p className="w-full text-[12.5px] text-fail">
          Revision {drafts.head.revision} has changed {drafts.overtaken.join(', ')} since you began. Merge, check it, then save.
        </p>
      )}
      {answer && drafts.overtaken.length === 0 && <p className="w-full text-[12.5px] text-soft">{answer}</p>}
      {!drafts.isKept && (
        <p className="w-full text-[12.5px] text-fail">This draft is too large for the browser to keep over a reload. Save it soon.</p>
      )}
    </>
  );
}
