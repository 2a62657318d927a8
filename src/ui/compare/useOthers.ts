import { useState } from 'react';
import type { Compared, ComparedWith } from '../engine/messages';
import { useAddressList } from '../hooks/useAddress';

/** One that the first is compared with, as it is chosen: `case:…`, `plant:…`, `run:…` of a campaign, or `recording:…`. */
export interface Other {
  readonly key: string;
  readonly what: ComparedWith;
}

/** Five, so that with the first there are six. */
export const mostOthers = 5;

/** What the first run is compared with: in the address, and after these the recordings, which are on this page alone. */
export function useOthers() {
  const [keys, setKeys] = useAddressList('with');
  const [recordings, setRecordings] = useState<ReadonlyMap<string, string>>(new Map());
  const others = [...keys, ...recordings.keys()].flatMap((key): Other[] => {
    const what = whatOf(key, recordings);
    return what ? [{ key, what }] : [];
  });
  const change = (next: readonly string[]): void => {
    setKeys(next.filter((key) => !recordings.has(key)));
    setRecordings(new Map([...recordings].filter(([key]) => next.includes(key))));
  };
  const addRecording = (name: string, text: string): void => setRecordings(new Map([...recordings, [`recording:${name}`, text]]));
  return { others, change, addRecording };
}

function whatOf(key: string, recordings: ReadonlyMap<string, string>): ComparedWith | undefined {
  const name = key.slice(key.indexOf(':') + 1);
  if (key.startsWith('case:')) return { k: 'case', case: name };
  if (key.startsWith('plant:')) return { k: 'variant', variant: name };
  const text = recordings.get(key);
  if (text !== undefined) return { k: 'recording', text };
  // Campaign, run and document of the campaign.
  const [, campaign, run, document] = /^run:(\d+)\.(\d+)\.(.*)$/.exec(key) ?? [];
  return document === undefined ? undefined : { k: 'campaign run', campaign: Number(campaign), run: Number(run), document };
}

/** What an other one is called. */
export function nameOf(key: string, { others }: Compared, index: number): string {
  return key.startsWith('recording:') ? key.slice('recording:'.length) : (others[index]?.name ?? key);
}
