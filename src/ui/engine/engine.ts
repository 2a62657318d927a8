import { decode } from '@/core/exchange';
import type { RunOrder, RunResult } from '@/core/project';
import { receivedTrace, type SentTrace, type Trace } from '@/core/trace';
import type { EngineKind, EngineTalk } from './messages';
import { WatchedEngine } from './watched';

/** A run made in the browser. */
export interface Replayed {
  readonly order: RunOrder;
  readonly result: RunResult;
  readonly trace: Trace;
}

const engine = new WatchedEngine(() => new Worker('/engine/engine.js', { type: 'module' }));

/** Asks the engine; refuses with the engine's own words when it cannot answer. */
export function askEngine<K extends EngineKind>(k: K, ask: EngineTalk[K]['ask']): Promise<EngineTalk[K]['answer']> {
  return engine.ask(k, ask);
}

const replays = new Map<string, Promise<Replayed>>();
const mostReplays = 4;

/** Makes a stored run again from its experiment; the last few are kept. @param address where what it is made of is found */
export function replay(address: string): Promise<Replayed> {
  const known = replays.get(address);
  if (known) return known;
  const made = fetch(address)
    .then(async (response) => {
      const body = decode(await response.text()) as (RunOrder & { readonly recorded?: { result: RunResult; trace: SentTrace } }) | { error: string };
      if ('error' in body) throw new Error(body.error);
      if (body.recorded) return { order: body, result: body.recorded.result, trace: receivedTrace(body.recorded.trace) };
      return { order: body, ...(await askEngine('run', { order: body })) };
    })
    .catch((problem: unknown) => {
      replays.delete(address);
      throw problem;
    });
  replays.set(address, made);
  const oldest = replays.keys().next().value;
  if (replays.size > mostReplays && oldest !== undefined) replays.delete(oldest);
  return made;
}
