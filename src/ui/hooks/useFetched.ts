'use client';
import { useEffect, useState } from 'react';
import { decode } from '@/core/exchange';

/** What the server answers under an address that may change; the last answer stays until the next is there. Nothing is asked while the address is undefined. */
export function useFetched<T>(address: string | undefined): { readonly found?: T; readonly of?: string; readonly problem?: string } {
  const [state, setState] = useState<{ found?: T; of?: string; problem?: string }>({});
  useEffect(() => {
    if (address === undefined) return;
    let wanted = true;
    fetch(address)
      .then(async (response) => {
        const body = decode(await response.text()) as T | { error: string };
        if (!wanted) return;
        if (response.ok) setState({ found: body as T, of: address });
        else setState((now) => ({ ...now, problem: (body as { error: string }).error }));
      })
      .catch(() => wanted && setState((now) => ({ ...now, problem: 'The server does not answer. Is it still running?' })));
    return () => {
      wanted = false;
    };
  }, [address]);
  return state;
}
