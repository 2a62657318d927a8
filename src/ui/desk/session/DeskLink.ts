import type { Standing } from '@/core/desk';
import type { SourceFile } from '@/core/documents';
import type { DeskChoice } from '@/core/project';
import type { Trace } from '@/core/trace';
import type { DeskAsk, DeskTold, Frame } from './messages';

/** The latest curves, and how the criteria stand. */
export interface Latest {
  readonly trace: Trace | undefined;
  readonly standings: readonly Standing[];
}

type Listener = (told: DeskTold) => void;

/** The page's end of a desk: tells the worker what people do, and the screen what comes back. Values come often, so they go past React to who has asked for them. */
export class DeskLink {
  private readonly worker: Worker;
  private readonly listeners = new Set<Listener>();
  private readonly onFrame = new Set<(frame: Frame) => void>();
  private readonly onLatest = new Set<() => void>();
  private places = new Map<number, number>();
  frame: Frame | undefined;
  latest: Latest = { trace: undefined, standings: [] };

  constructor(files: readonly SourceFile[], choice: DeskChoice) {
    this.worker = new Worker('/engine/desk.js', { type: 'module' });
    this.worker.onmessage = ({ data }: MessageEvent<DeskTold>) => this.hear(data);
    this.worker.onerror = () => this.hear({ k: 'problem', message: 'The desk could not be started in this browser.' });
    this.tell({ k: 'open', files, choice });
  }

  private hear(told: DeskTold): void {
    if (told.k === 'frame') {
      this.frame = told.frame;
      for (const listener of this.onFrame) listener(told.frame);
      this.tell({ k: 'ready for', told: 'frame' });
    } else if (told.k === 'lanes') {
      this.latest = { trace: told.trace, standings: told.standings ?? this.latest.standings };
      for (const listener of this.onLatest) listener();
      // Once they are painted, and what people did meanwhile was heard.
      requestAnimationFrame(() => setTimeout(() => this.tell({ k: 'ready for', told: 'lanes' })));
    } else {
      for (const listener of this.listeners) listener(told);
    }
  }

  tell(ask: DeskAsk): void {
    this.worker.postMessage(ask);
  }

  /** Says which slots are on the screen. */
  show(slots: readonly number[], lanes: readonly number[], seconds: number): void {
    const all = [...new Set(slots)];
    this.places = new Map(all.map((slot, index) => [slot, index]));
    this.tell({ k: 'show', slots: all, lanes, seconds });
  }

  value(slot: number): number {
    return this.frame?.values[this.places.get(slot) ?? -1] ?? Number.NaN;
  }

  hearAll(listener: Listener): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  readonly hearFrames = (listener: (frame: Frame) => void): (() => void) => {
    this.onFrame.add(listener);
    return () => this.onFrame.delete(listener);
  };

  readonly hearLatest = (listener: () => void): (() => void) => {
    this.onLatest.add(listener);
    return () => this.onLatest.delete(listener);
  };

  close(): void {
    this.worker.terminate();
  }
}
