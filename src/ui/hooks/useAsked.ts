import { useEffect, useState } from 'react';
import { askEngine } from '../engine/engine';
import type { EngineKind, EngineTalk } from '../engine/messages';

/** The engine's answer to a question that may change; the last answer stays until the next is there. Nothing is asked while the question is undefined. */
export function useAsked<K extends EngineKind>(
  kind: K,
  ask: EngineTalk[K]['ask'] | undefined,
): { readonly found?: EngineTalk[K]['answer']; readonly problem?: string; readonly waiting: boolean } {
  const [state, setState] = useState<{ found?: EngineTalk[K]['answer']; problem?: string; waiting: boolean }>({ waiting: true });
  useEffect(() => {
    if (!ask) return;
    let wanted = true;
    setState((now) => ({ ...now, waiting: true }));
    askEngine(kind, ask)
      .then((found) => wanted && setState({ found, waiting: false }))
      .catch((problem: unknown) => {
        if (wanted) setState((now) => ({ ...now, problem: problem instanceof Error ? problem.message : String(problem), waiting: false }));
      });
    return () => {
      wanted = false;
    };
  }, [kind, ask]);
  return state;
}
