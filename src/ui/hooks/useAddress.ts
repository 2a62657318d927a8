'use client';
import { usePathname, useSearchParams } from 'next/navigation';
import { useCallback } from 'react';

/** A value that lives in the address bar, so that what is on the screen can be linked. */
export function useAddress(key: string): [string | undefined, (value: string | undefined) => void] {
  const [[value], set] = useAddressList(key);
  return [value, useCallback((next) => set(next === undefined ? [] : [next]), [set])];
}

/** Values that live in the address bar under one name. */
export function useAddressList(key: string): [readonly string[], (values: readonly string[]) => void] {
  const search = useSearchParams();
  const path = usePathname();
  const set = useCallback(
    (values: readonly string[]) => {
      const next = new URLSearchParams(window.location.search);
      next.delete(key);
      for (const value of values) next.append(key, value);
      window.history.replaceState(null, '', `${path}${next.size > 0 ? `?${next}` : ''}`);
    },
    [key, path],
  );
  return [search.getAll(key), set];
}
