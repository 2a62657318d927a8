'use client';
import { useEffect, useRef, useState } from 'react';
import { decode } from '@/core/exchange';
import type { HistoryEntry, RequirementStep } from '@/core/requirements';
import { WordChanges } from './WordChanges';

interface RequirementHistoryProps {
  readonly slug: string;
  readonly id: string;
  /** Another one: there may be a new revision, and it is read again while it is open. */
  readonly version: number;
}

/** What became of a requirement from revision to revision; asked for only when it is opened. */
export function RequirementHistory({ slug, id, version }: RequirementHistoryProps) {
  const [entries, setEntries] = useState<readonly HistoryEntry[] | string>();
  const [isOpen, setOpen] = useState(false);
  const place = useRef<HTMLDetailsElement>(null);
  // It may have been opened before the page's script was there to be told.
  useEffect(() => setOpen(place.current?.open === true), []);
  // Another version is read anew.
  useEffect(() => {
    if (!isOpen) return;
    const stop = new AbortController();
    readHistory(slug, id, stop.signal).then((read) => {
      if (!stop.signal.aborted) setEntries(read);
    });
    return () => stop.abort();
  }, [isOpen, slug, id, version]);
  return (
    <details ref={place} className="mt-6" onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer font-semibold">History</summary>
      {typeof entries === 'string' && (
        <p className="mt-1.5 text-[13px] text-fail" role="alert">
          {entries}
        </p>
      )}
      {Array.isArray(entries) && entries.length === 0 && <p className="mt-1.5 text-[13px] text-soft">It is not in any saved revision yet.</p>}
      {Array.isArray(entries) && (
        <ol className="mt-1">
          {(entries as readonly HistoryEntry[]).map(({ revision, on, by, note, steps }) => (
            <li key={revision} className="border-rule border-b py-1.5 text-[13px]">
              <span className="text-soft">
                Revision {revision}, {new Date(on).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}, {by}
                {note && ` — ${note}`}
              </span>
              {steps.map((step) => (
                <p key={JSON.stringify(step)}>
                  <Step step={step} />
                </p>
              ))}
            </li>
          ))}
        </ol>
      )}
    </details>
  );
}

async function readHistory(slug: string, id: string, signal: AbortSignal): Promise<readonly HistoryEntry[] | string> {
  try {
    const response = await fetch(`/api/projects/${slug}/requirements/history?of=${encodeURIComponent(id)}`, { signal });
    if (response.ok) return decode(await response.text()) as HistoryEntry[];
  } catch {
    // The server is not there; or nobody waits any more.
  }
  return 'The history could not be read; the server does not answer. Try again in a moment.';
}

function Step({ step }: { readonly step: RequirementStep }) {
  switch (step.k) {
    case 'written':
      return 'Written';
    case 'removed':
      return 'Removed';
    case 'prose':
      return <WordChanges words={step.words} />;
    case 'criterion':
      return (
        <>
          {step.name} {step.what}
          {step.what !== 'accepted' && step.what !== 'taken back' && (
            <>
              : <code className="font-mono">{step.sentence}</code>
            </>
          )}
        </>
      );
  }
}
