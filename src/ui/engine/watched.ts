import type { EngineAnswer, EngineKind, EngineTalk } from './messages';

/** A question about a document that takes longer than this is stuck (ms). */
const longestMs = 30_000;

/** Questions about what a document says, asked anew as it is edited. All others make runs, or take in a lot at once: they take their time. */
const quick: ReadonlySet<EngineKind> = new Set([
  'inspect',
  'define',
  'rename',
  'gather',
  'wire',
  'replace',
  'compose',
  'requirements',
  'meaning',
  'edit requirement',
]);

/** Questions whose documents the engine keeps for those that follow. */
const remembered: ReadonlySet<EngineKind> = new Set(['requirements', 'trial', 'campaign']);

interface Message {
  readonly id: number;
  readonly k: EngineKind;
  readonly ask: unknown;
}

interface Waiting {
  readonly message: Message;
  readonly resolve: (value: never) => void;
  readonly reject: (problem: Error) => void;
}

/** The engine's worker, watched: one that is stuck over a document is replaced, and what was asked after it is asked again. It answers in the order of the questions. */
export class WatchedEngine {
  private worker: Worker | undefined;
  private last = 0;
  private readonly waiting = new Map<number, Waiting>();
  private readonly kept = new Map<EngineKind, Message>();
  private watching: ReturnType<typeof setTimeout> | undefined;

  constructor(private readonly start: () => Worker) {}

  /** Refuses with the engine's own words when it cannot answer. */
  ask<K extends EngineKind>(k: K, ask: EngineTalk[K]['ask']): Promise<EngineTalk[K]['answer']> {
    this.last += 1;
    const message = { id: this.last, k, ask };
    return new Promise<EngineTalk[K]['answer']>((resolve, reject) => {
      this.waiting.set(message.id, { message, resolve, reject });
      this.running().postMessage(message);
      if (this.waiting.size === 1) this.watch();
    });
  }

  private running(): Worker {
    if (this.worker) return this.worker;
    const worker = this.start();
    worker.onmessage = ({ data }: MessageEvent<EngineAnswer>) => this.hear(data);
    worker.onerror = () => this.lose('the engine could not be started');
    this.worker = worker;
    return worker;
  }

  private hear(answer: EngineAnswer): void {
    const one = this.waiting.get(answer.id);
    this.waiting.delete(answer.id);
    if (one && !('problem' in answer) && remembered.has(one.message.k)) this.kept.set(one.message.k, one.message);
    if ('problem' in answer) one?.reject(new Error(answer.problem));
    else one?.resolve(answer.value as never);
    this.watch();
  }

  /** All that waits is told; the next question begins with a fresh worker. */
  private lose(problem: string): void {
    clearTimeout(this.watching);
    for (const one of this.waiting.values()) one.reject(new Error(problem));
    this.waiting.clear();
    this.worker = undefined;
  }

  /** The oldest question is the one that is being answered. */
  private watch(): void {
    clearTimeout(this.watching);
    const [first] = this.waiting.values();
    if (first && quick.has(first.message.k)) this.watching = setTimeout(() => this.replace(first), longestMs);
  }

  private replace(stuck: Waiting): void {
    this.worker?.terminate();
    this.worker = undefined;
    this.waiting.delete(stuck.message.id);
    stuck.reject(new Error(`This takes longer than ${longestMs / 1000} s and was ended. Undo the last change, or make the document smaller.`));
    const worker = this.running();
    for (const message of this.kept.values()) worker.postMessage(message);
    for (const { message } of this.waiting.values()) worker.postMessage(message);
    this.watch();
  }
}
