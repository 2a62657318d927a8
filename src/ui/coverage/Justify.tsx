'use client';
import { useState } from 'react';

interface JustifyProps {
  /** Takes the reason. */
  readonly justify: (reason: string) => void;
  /** What the button says. */
  readonly does?: string;
  readonly asks?: string;
}

/** Asks why a part need not be touched, or a goal not be reached. */
export function Justify({ justify, does = 'Justify', asks = 'Why it need not be touched' }: JustifyProps) {
  const [reason, setReason] = useState<string>();
  if (reason === undefined)
    return (
      <button type="button" className="text-soft underline decoration-rule" onClick={() => setReason('')}>
        {does}
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
        aria-label={asks}
        placeholder={asks}
        className="w-96 rounded border border-rule bg-sheet px-1.5 py-0.5"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <button type="submit" className="act" disabled={reason.trim() === ''}>
        {does}
      </button>
      <button type="button" className="act" onClick={() => setReason(undefined)}>
        Leave it
      </button>
    </form>
  );
}
