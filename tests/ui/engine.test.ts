import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { EngineAnswer } from '@/ui/engine/messages';
import { WatchedEngine } from '@/ui/engine/watched';

/** A worker that answers when it is told to. */
class Played {
  onmessage: ((event: { data: EngineAnswer }) => void) | undefined;
  onerror: (() => void) | undefined;
  readonly got: { id: number; k: string }[] = [];
  ended = false;
  postMessage(message: { id: number; k: string }): void {
    this.got.push(message);
  }
  terminate(): void {
    this.ended = true;
  }
  answer(index: number, value: unknown): void {
    this.onmessage?.({ data: { id: this.got[index]!.id, value } as EngineAnswer });
  }
}

describe('the watched engine', () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());
  const begin = () => {
    const workers: Played[] = [];
    const engine = new WatchedEngine(() => {
      const worker = new Played();
      workers.push(worker);
      return worker as unknown as Worker;
    });
    return { workers, engine };
  };
  const inspect = { files: [], at: '' };

  it('replaces a worker that is stuck over a document, says so, and asks again what came after', async () => {
    const { workers, engine } = begin();
    const stuck = engine.ask('inspect', inspect).catch((problem: Error) => problem.message);
    const next = engine.ask('inspect', { files: [], at: 'next' });
    vi.advanceTimersByTime(29_000);
    expect(workers).toHaveLength(1);
    vi.advanceTimersByTime(2_000);
    expect(await stuck).toBe('This takes longer than 30 s and was ended. Undo the last change, or make the document smaller.');
    expect([workers.length, workers[0]!.ended]).toEqual([2, true]);
    workers[1]!.answer(0, 'read');
    expect(await next).toBe('read');
  });

  it.each([
    ['run', { order: {} as never }],
    ['coverage', { files: [] }],
    ['lens', { files: [], at: '' }],
    ['family', { files: [], requirement: 'R-1', drawn: [] }],
    ['find case', {}],
  ] as const)('counts from when a question is begun, and gives runs all their time: %s', async (kind, ask) => {
    const { workers, engine } = begin();
    const run = engine.ask(kind, ask);
    const behind = engine.ask('inspect', inspect);
    vi.advanceTimersByTime(600_000);
    workers[0]!.answer(0, 'ran');
    expect(await run).toBe('ran');
    vi.advanceTimersByTime(29_000);
    workers[0]!.answer(1, 'read');
    expect([await behind, workers.length]).toEqual(['read', 1]);
    vi.advanceTimersByTime(600_000);
    expect(workers).toHaveLength(1);
  });

  it('gives a fresh worker the documents that later questions need', async () => {
    const { workers, engine } = begin();
    const first = engine.ask('requirements', { files: [] });
    workers[0]!.answer(0, 'view');
    await first;
    const stuck = engine.ask('inspect', inspect).catch(() => 'stuck');
    vi.advanceTimersByTime(31_000);
    expect(await stuck).toBe('stuck');
    expect(workers[1]!.got.map((message) => message.k)).toEqual(['requirements']);
  });

  it('tells all that wait when the worker cannot be started', async () => {
    const { workers, engine } = begin();
    const asked = engine.ask('inspect', inspect).catch((problem: Error) => problem.message);
    workers[0]!.onerror?.();
    expect(await asked).toBe('the engine could not be started');
    const again = engine.ask('inspect', inspect);
    workers[1]!.answer(0, 'read');
    expect(await again).toBe('read');
  });
});
