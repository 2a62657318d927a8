'use client';
import { useEffect, useState } from 'react';
import { browserLayout } from './browserLayout';
import type { Laid, LayoutLibrary } from './layout';

/**
 * The newest finished layout of something; an older one stays on the screen until the next is there.
 * @param known its layout, where the server has made it
 */
export function useLaid<T>(
  what: T,
  lay: (what: T, library: LayoutLibrary) => Promise<Laid>,
  known: Laid | undefined,
): { readonly of: T; readonly laid: Laid } | string | undefined {
  const [state, setState] = useState<{ readonly of: T; readonly laid: Laid } | string | undefined>(known && { of: what, laid: known });
  useEffect(() => {
    if (known) return setState({ of: what, laid: known });
    let wanted = true;
    lay(what, browserLayout).then(
      (laid) => wanted && setState({ of: what, laid }),
      (problem: unknown) => wanted && setState(problem instanceof Error ? problem.message : String(problem)),
    );
    return () => {
      wanted = false;
    };
  }, [what, lay, known]);
  return state;
}
