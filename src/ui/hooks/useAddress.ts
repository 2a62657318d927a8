'use client';
import { usePathname, useSearchParams } from 'next/navigation';
import { useCallback, useEffect, useSyncExternalStore } from 'react';
import { AddressBar } from './addressBar';

const bar = new AddressBar();

/** A value that lives in the address bar, so that what is on the screen can be linked. */
export function useAddress(key: string): [string | undefined, (value: string | undefined) => void] {
  const [[value], set] = useAddressList(key);
  return [value, useCallback((next) => set(next === undefined ? [] : [next]), [set])];
}

/** Values that live in the address bar under one name. */
export function useAddressList(key: string): [readonly string[], (values: readonly string[]) => void] {
  const path = usePathname();
  const search = useSearchParams().toString();
  useSyncExternalStore(bar.subscribe, bar.version, () => undefined);
  useEffect(() => bar.follow({ path, search }), [path, search]);
  const set = useCallback(
    (values: readonly string[]) => {
      const next = new URLSearchParams(bar.search);
      next.delete(key);
      for (const value of values) next.append(key, value);
      window.history.replaceState(null, '', bar.write(next.toString()));
    },
    [key],
  );
  return [new URLSearchParams(bar.searchAt({ path, search })).getAll(key), set];
}
