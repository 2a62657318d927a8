import type { RunOrder, RunResult, Trace } from '@/core';
import { decode } from '@/core';
import type { EngineAnswer, EngineKind, EngineTalk } from './messages';

/** A run made in the browser. */
export interface Replayed {
  readonly order: RunOrder;
  readonly result: RunResult;
  readonly trace: Trace;
}

let worker: Worker | undefined;
let last = 0;
const waiting = new Map<number, { resolve: (value: never) => void; reject: (problem: Error) => void }>();

function engine(): Worker {
  if (worker) return worker;
  worker = new Worker('/engine/engine.js', { type: 'module' });
  worker.onmessage = ({ data }: MessageEvent<EngineAnswer>) => {
    const one = waiting.get(data.id);
    waiting.delete(data.id);
    if ('problem' in data) one?.reject(new Error(data.problem));
    else one?.resolve(data.value as never);
  };
  worker.onerror = () => {
    for (const one of waiting.values()) one.reject(new Error('the engine could not be started'));
    waiting.clear();
    worker = undefined;
  };
  return worker;
}

/** Asks the engine; refuses with the engine's own words when it cannot answer. */
export function askEngine<K extends EngineKind>(k: K, ask: EngineTalk[K]['ask']): Promise<EngineTalk[K]['answer']> {
  last += 1;
  const id = last;
  return new Promise<EngineTalk[K]['answer']>((resolve, reject) => {
    waiting.set(id, { resolve, reject });
    engine().postMessage({ id, k, ask });
  });
}

const replays = new Map<number, Promise<Replayed>>();
const mostReplays = 4;

/** Makes a stored run again from its experiment; the last few are kept. */
export function replay(runId: number): Promise<Replayed> {
  const known = replays.get(runId);
  if (known) return known;
  const made = fetch(`/api/runs/${runId}`)
    .then(async (response) => {
      const body = decode(await response.text()) as RunOrder | { error: string };
      if ('error' in body) throw new Error(body.error);
      return { order: body, ...(await askEngine('run', { order: body })) };
    })
    .catch((problem: unknown) => {
      replays.delete(runId);
      throw problem;
    });
  replays.set(runId, made);
  const oldest = replays.keys().next().value;
  if (replays.size > mostReplays && oldest !== undefined) replays.delete(oldest);
  return made;
}
