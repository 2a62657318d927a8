'use client';
import type { OpenedRevision } from '../hooks/useRevision';

/** Says that somebody saved while work goes on on an older revision; nothing when that is not so. */
export function NewerRevision({ held, newest, what }: { readonly held: OpenedRevision; readonly newest: number; readonly what: string }) {
  if (!held.isOlder) return null;
  return (
    <p role="status" className="mt-2 flex items-center gap-3 border-key border-l-[3px] px-3 py-1">
      Revision {newest} was saved meanwhile. {what} revision {held.opened.revision}.
      <button type="button" className="act" onClick={() => held.openNewest()}>
        Open revision {newest}
      </button>
    </p>
  );
}
