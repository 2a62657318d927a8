'use client';
import { useEffect, useState } from 'react';
import { type Replayed, replay } from './engine';

export type ReplayState =
  | { readonly k: 'waiting' }
  | { readonly k: 'ready'; readonly replayed: Replayed }
  | { readonly k: 'problem'; readonly message: string };

/** A stored run, made again in the browser. @param address where what it is made of is found */
export function useReplay(address: string | undefined): ReplayState {
  const [state, setState] = useState<{ address: string | undefined; state: ReplayState }>({ address, state: { k: 'waiting' } });
  useEffect(() => {
    if (address === undefined) return;
    let wanted = true;
    replay(address).then(
      (replayed) => wanted && setState({ address, state: { k: 'ready', replayed } }),
      (problem: unknown) =>
        wanted && setState({ address, state: { k: 'problem', message: problem instanceof Error ? problem.message : String(problem) } }),
    );
    return () => {
      wanted = false;
    };
  }, [address]);
  return state.address === address ? state.state : { k: 'waiting' };
}
