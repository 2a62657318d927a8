'use client';
import { useSearchParams } from 'next/navigation';
import { useState } from 'react';
import type { DeskChoice } from '@/core/project';
import { type Revision, useRevision } from '../hooks/useRevision';
import { NewerRevision } from '../parts/NewerRevision';
import { DeskOnScreen } from './DeskOnScreen';
import { useDesk } from './session/useDesk';

/** A loop, or one component, to be run by hand. What is open stands in the address. */
export function DeskView({ slug, newest }: { readonly slug: string; readonly newest: Revision }) {
  const search = useSearchParams();
  const [choice, setChoice] = useState<DeskChoice>(() => choiceIn(search));
  const held = useRevision(newest);
  const { revision, files } = held.opened;
  const desk = useDesk(files, choice);
  const choose = (next: DeskChoice): void => {
    // A desk kept meanwhile is in a newer revision.
    held.openNewest(() => setChoice(next));
    window.history.replaceState(null, '', `?${addressOf(next)}`);
  };
  const notice = <NewerRevision held={held} newest={newest.revision} what="This desk still runs" />;
  if (desk.problem || !desk.opened || !desk.link)
    return (
      <main className="px-6 pt-5">
        <h1 className="headline">{desk.problem || 'Setting up the desk …'}</h1>
        {notice}
        {desk.problem && (
          <button type="button" className="act mt-3" onClick={() => choose({})}>
            Open the first desk of this project
          </button>
        )}
      </main>
    );
  const key = `${revision} ${desk.opened.name} ${desk.opened.loop} ${desk.opened.variant} ${desk.opened.component} ${desk.opened.requirements} ${desk.opened.startFrom}`;
  const { loopFile } = desk.opened;
  const loopText = files.find((file) => file.path === loopFile)?.text ?? '';
  return (
    <DeskOnScreen
      key={key}
      slug={slug}
      revision={revision}
      loopText={loopText}
      desk={desk}
      opened={desk.opened}
      link={desk.link}
      choose={choose}
      notice={notice}
    />
  );
}

function choiceIn(search: { get(key: string): string | null; getAll(key: string): string[] }): DeskChoice {
  const text = (key: string): string | undefined => search.get(key) ?? undefined;
  const [desk, loop, component, startFrom] = [text('desk'), text('loop'), text('component'), text('from')];
  const requirements = search.getAll('requirement');
  return {
    ...(desk ? { desk } : {}),
    ...(loop ? { loop } : {}),
    ...(component ? { component } : {}),
    ...(startFrom ? { startFrom } : {}),
    ...(requirements.length > 0 || (loop && !desk) ? { requirements } : {}),
  };
}

function addressOf({ desk, loop, component, startFrom, requirements = [] }: DeskChoice): URLSearchParams {
  const address = new URLSearchParams();
  for (const [key, value] of Object.entries({ desk, loop, component, from: startFrom })) if (value) address.set(key, value);
  for (const id of requirements) address.append('requirement', id);
  return address;
}
