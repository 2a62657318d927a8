import type { ModelView, RunOrder, RunResult, SourceFile, Trace, WhyNot } from '@/core';
import type { EngineAnswer, EngineResults } from './messages';

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

function ask<K extends keyof EngineResults>(request: { readonly k: K } & Record<string, unknown>): Promise<EngineResults[K]> {
  last += 1;
  const id = last;
  return new Promise<EngineResults[K]>((resolve, reject) => {
    waiting.set(id, { resolve, reject });
    engine().postMessage({ ...request, id });
  });
}

/** Makes a run in the engine's worker. */
export function runInEngine(order: RunOrder): Promise<EngineResults['run']> {
  return ask({ k: 'run', order });
}

/** Why a transition of a run's loop was not taken, or when it was. */
export function whyInEngine(order: RunOrder, transition: number): Promise<WhyNot> {
  return ask({ k: 'why', order, transition });
}

/** Checks documents and draws one item of them. */
export function inspectInEngine(files: readonly SourceFile[], at: string): Promise<ModelView> {
  return ask({ k: 'inspect', files, at });
}

/** A document's text with one plain value replaced; `undefined` when there is none at the path. */
export function replaceInEngine(text: string, path: readonly string[], value: number | boolean): Promise<string | undefined> {
  return ask({ k: 'replace', text, path, value });
}

/** Documents in which what stands at an offset of a file has another name. */
export function renameInEngine(files: readonly SourceFile[], file: string, offset: number, to: string): Promise<EngineResults['rename']> {
  return ask({ k: 'rename', files, file, offset, to });
}

/** A network with some of its parts gathered into a component of their own. */
export function gatherInEngine(
  files: readonly SourceFile[],
  component: string,
  parts: readonly string[],
  name: string,
): Promise<EngineResults['gather']> {
  return ask({ k: 'gather', files, component, parts, name });
}

/** A loop's document with wires added between unconnected inputs and the outputs of the same name; `undefined` when none fits. */
export function wireInEngine(files: readonly SourceFile[], loop: string): Promise<EngineResults['wire']> {
  return ask({ k: 'wire', files, loop });
}

const replays = new Map<number, Promise<Replayed>>();
const mostReplays = 4;

/** Makes a stored run again from its experiment; the last few are kept. */
export function replay(runId: number): Promise<Replayed> {
  const known = replays.get(runId);
  if (known) return known;
  const made = fetch(`/api/runs/${runId}`)
    .then(async (response) => {
      const body = (await response.json()) as RunOrder | { error: string };
      if ('error' in body) throw new Error(body.error);
      return { order: body, ...(await runInEngine(body)) };
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
