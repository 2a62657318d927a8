'use client';
import { useEffect, useState } from 'react';
import { type Replayed, replay } from './engine';

export type ReplayState =
  | { readonly k: 'waiting' }
  | { readonly k: 'ready'; readonly replayed: Replayed }
  | { readonly k: 'problem'; readonly message: string };

/** A stored run, made again in the browser. */
export function useReplay(runId: number | undefined): ReplayState {
  const [state, setState] = useState<{ runId: number | undefined; state: ReplayState }>({ runId, state: { k: 'waiting' } });
  useEffect(() => {
    if (runId === undefined) return;
    let wanted = true;
    replay(runId).then(
      (replayed) => wanted && setState({ runId, state: { k: 'ready', replayed } }),
      (problem: unknown) =>
        wanted && setState({ runId, state: { k: 'problem', message: problem instanceof Error ? problem.message : String(problem) } }),
    );
    return () => {
      wanted = false;
    };
  }, [runId]);
  return state.runId === runId ? state.state : { k: 'waiting' };
}
