'use client';
import { usePathname, useSearchParams } from 'next/navigation';
import { useCallback } from 'react';

/** A value that lives in the address bar, so that what is on the screen can be linked. */
export function useAddress(key: string): [string | undefined, (value: string | undefined) => void] {
  const search = useSearchParams();
  const path = usePathname();
  const set = useCallback(
    (value: string | undefined) => {
      const next = new URLSearchParams(window.location.search);
      if (value === undefined) next.delete(key);
      else next.set(key, value);
      window.history.replaceState(null, '', `${path}${next.size > 0 ? `?${next}` : ''}`);
    },
    [key, path],
  );
  return [search.get(key) ?? undefined, set];
}
