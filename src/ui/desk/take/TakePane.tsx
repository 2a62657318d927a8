'use client';
import Link from 'next/link';
import { Dialog } from 'radix-ui';
import { useEffect, useState } from 'react';
import type { Take, TakenCase } from '@/core/desk';
import { fileNameOf } from '@/core/documents';
import { plural, timeWords } from '@/core/wording';
import { saveRevision } from '../../drafts/saveRevision';
import { saveText } from '../../parts/saveText';
import type { DeskLink } from '../session/DeskLink';
import { TakeBands } from './TakeBands';

interface TakePaneProps {
  readonly link: DeskLink;
  readonly slug: string;
  readonly revision: number;
  /** A revision was made on top of that one. */
  readonly saved: (revision: number) => void;
  readonly caseNames: readonly string[];
  readonly take: { readonly take: Take; readonly svg: string };
  readonly taken: TakenCase | undefined;
  readonly close: () => void;
}

/** What was done since the start, to be looked at, taken out as a sequence diagram, or made a case of. */
export function TakePane({ take: { take, svg }, close, ...making }: TakePaneProps) {
  const doings = take.arrows.filter((arrow) => arrow.from === 'people').length;
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed inset-x-[4vw] top-[5vh] max-h-[90vh] overflow-y-auto border border-rule bg-sheet p-6 shadow-lg"
        >
          <div className="flex items-start gap-4">
            <Dialog.Title className="headline">
              {plural(doings, 'action')} by hand in {timeWords(take.until)}, and what came of {doings === 1 ? 'it' : 'them'}.
            </Dialog.Title>
            <button type="button" className="act ml-auto shrink-0" onClick={() => saveText('take.svg', svg, 'image/svg+xml')}>
              Save as sequence diagram
            </button>
            <Dialog.Close className="act">Close</Dialog.Close>
          </div>
          {take.leftOut > 0 && (
            <p className="text-soft">
              The first {take.arrows.length} arrows are shown; {take.leftOut} later ones are not.
            </p>
          )}
          <div className="mt-3">
            <TakeBands take={take} width={1160} />
          </div>
          <MakeCase {...making} />
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** The case that the take makes, to be named and saved. */
function MakeCase({ link, slug, revision, saved, caseNames, taken }: Omit<TakePaneProps, 'take' | 'close'>) {
  const [name, setName] = useState('Take from the desk');
  const [by, setBy] = useState<'state' | 'time'>('state');
  const [answer, setAnswer] = useState<{ readonly saved: boolean; readonly words: string }>();
  const isThere = caseNames.some((one) => one.toLowerCase() === name.trim().toLowerCase());
  useEffect(() => {
    if (name.trim()) link.tell({ k: 'make case', heading: { name: name.trim(), about: 'Taken from the desk.' }, by });
  }, [link, name, by]);
  const save = async (): Promise<void> => {
    if (!taken) return;
    const file = `cases/${fileNameOf(name) || 'take'}.yaml`;
    const result = await saveRevision(slug, revision, [{ path: file, text: taken.text }]);
    setAnswer(typeof result === 'string' ? { saved: false, words: result } : { saved: true, words: `Saved as revision ${result.revision}.` });
    if (typeof result !== 'string') saved(result.revision);
  };
  return (
    <section aria-label="Make a case" className="mt-4 grid grid-cols-[300px_1fr] gap-6 max-md:grid-cols-1">
      <div className="grid content-start gap-2">
        <h2 className="font-semibold">Make a case of it</h2>
        <label className="grid gap-0.5">
          <span className="text-soft">Name</span>
          <input value={name} onChange={(event) => setName(event.target.value)} className="rounded border border-rule bg-sheet px-2 py-1" />
        </label>
        <Radio checked={by === 'state'} choose={() => setBy('state')} words="wait for the states people waited for" />
        <Radio checked={by === 'time'} choose={() => setBy('time')} words="do everything at its time" />
        {taken?.notes.map((note) => (
          <p key={note} className="border-lack border-l-[3px] pl-2 text-[13px]">
            {note}
          </p>
        ))}
        <button
          type="button"
          className="act act-first w-fit"
          disabled={!taken || name.trim() === '' || isThere || answer?.saved}
          onClick={() => void save()}
        >
          Save the case
        </button>
        {isThere && <p className="text-fail">There is a case of this name already.</p>}
        {answer && (
          <p role={answer.saved ? 'status' : 'alert'} className={answer.saved ? '' : 'text-fail'}>
            {answer.words} {answer.saved && <CaseLink slug={slug} name={name.trim()} />}
          </p>
        )}
      </div>
      <pre className="figure max-h-72 overflow-auto border border-rule bg-ground p-3" data-case-text>
        {taken?.text}
      </pre>
    </section>
  );
}

function Radio({ checked, choose, words }: { readonly checked: boolean; readonly choose: () => void; readonly words: string }) {
  return (
    <label className="flex items-center gap-2">
      <input type="radio" name="by" checked={checked} onChange={choose} /> {words}
    </label>
  );
}

function CaseLink({ slug, name }: { readonly slug: string; readonly name: string }) {
  return (
    <Link href={`/p/${slug}/cases#${encodeURIComponent(name)}`} className="underline">
      Run it among the cases
    </Link>
  );
}
