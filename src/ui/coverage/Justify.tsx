'use client';
import { useState } from 'react';

/** Asks why a part need not be touched. @param justify takes the reason */
export function Justify({ justify }: { readonly justify: (reason: string) => void }) {
  const [reason, setReason] = useState<string>();
  if (reason === undefined)
    return (
      <button type="button" className="text-soft underline decoration-rule" onClick={() => setReason('')}>
        Justify
      </button>
    );
  return (
    <form
      className="mt-1 flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (reason.trim() !== '') justify(reason.trim());
      }}
    >
      <input
        aria-label="Why it need not be touched"
        placeholder="why it need not be touched"
        className="w-96 rounded border border-rule bg-sheet px-1.5 py-0.5"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <button type="submit" className="act" disabled={reason.trim() === ''}>
        Justify
      </button>
      <button type="button" className="act" onClick={() => setReason(undefined)}>
        Leave it
      </button>
    </form>
  );
}
