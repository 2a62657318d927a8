'use client';
import { type KeyboardEvent, useCallback } from 'react';

/** Walking a list with the arrow keys: moves the selection and keeps it in sight. */
export function useWalk(ids: readonly string[], selected: string | undefined, select: (id: string) => void): (event: KeyboardEvent) => void {
  return useCallback(
    (event) => {
      const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
      if (step === 0 || ids.length === 0) return;
      event.preventDefault();
      const at = selected === undefined ? -1 : ids.indexOf(selected);
      const next = ids[Math.max(0, Math.min(ids.length - 1, at + step))];
      if (next === undefined) return;
      select(next);
      document.getElementById(`row-${next}`)?.scrollIntoView({ block: 'nearest' });
    },
    [ids, selected, select],
  );
}
