'use client';
import { useEffect, useState } from 'react';

/** The newest finished layout of something; an older one stays on the screen until the next is there. */
export function useLaid<T, L>(what: T, lay: (what: T) => Promise<L>): { readonly of: T; readonly laid: L } | string | undefined {
  const [state, setState] = useState<{ readonly of: T; readonly laid: L } | string>();
  useEffect(() => {
    let wanted = true;
    lay(what).then(
      (laid) => wanted && setState({ of: what, laid }),
      (problem: unknown) => wanted && setState(problem instanceof Error ? problem.message : String(problem)),
    );
    return () => {
      wanted = false;
    };
  }, [what, lay]);
  return state;
}
