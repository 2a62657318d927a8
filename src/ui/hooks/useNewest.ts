import { useEffect, useRef, useState } from 'react';
import { askEngine } from '../engine/engine';
import type { EngineKind, EngineTalk } from '../engine/messages';

interface Newest<A> {
  readonly found?: A;
  readonly problem?: string;
  /** An answer is on its way. */
  readonly waiting: boolean;
}

/**
 * The engine's answer to a question that changes faster than it can be answered, as while something is dragged: one question is under way at a time, and after it the newest one is asked.
 */
export function useNewest<K extends EngineKind>(kind: K, ask: EngineTalk[K]['ask'] | undefined): Newest<EngineTalk[K]['answer']> {
  const [state, setState] = useState<Newest<EngineTalk[K]['answer']>>({ waiting: true });
  const newest = useRef(ask);
  const isBusy = useRef(false);
  const isThere = useRef(true);
  useEffect(() => {
    isThere.current = true;
    return () => {
      isThere.current = false;
    };
  }, []);
  useEffect(() => {
    newest.current = ask;
    if (!ask || isBusy.current) return;
    const next = async (): Promise<void> => {
      isBusy.current = true;
      let asked: typeof ask | undefined;
      while (isThere.current && newest.current && newest.current !== asked) {
        asked = newest.current;
        setState((now) => ({ ...now, waiting: true }));
        try {
          const found = await askEngine(kind, asked);
          if (isThere.current) setState({ found, waiting: newest.current !== asked });
        } catch (problem) {
          if (isThere.current) setState((now) => ({ ...now, problem: problem instanceof Error ? problem.message : String(problem), waiting: false }));
        }
      }
      isBusy.current = false;
    };
    void next();
  }, [kind, ask]);
  return state;
}
