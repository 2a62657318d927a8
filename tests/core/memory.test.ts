import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { describe, expect, it } from 'vitest';
import { Recent, remember } from '@/core/memory';
import type { CheckedCase, CheckedProject } from '@/core/project';
import { simulate } from '@/core/simulate';
import { blocksOf } from '@/core/yaml';
import { projectOf } from '../support/project';

describe('what was met lately', () => {
  it('never is more than two generations, whatever comes', () => {
    const recent = new Recent<number>(1_000);
    const key = (index: number): string => `key ${index}`.padEnd(10);
    for (let index = 0; index < 5_000; index += 1) recent.set(key(index), index);
    const kept = Array.from({ length: 5_000 }, (_, index) => index).filter((index) => recent.get(key(index)) !== undefined);
    expect(kept.length).toBeLessThanOrEqual(200);
    expect(kept.at(-1)).toBe(4_999);
  });

  it('keeps what is asked for now and then, and forgets what is not', () => {
    const recent = new Recent<string>(1_000);
    recent.set('in use', 'a');
    recent.set('not in use', 'b');
    for (let index = 0; index < 5_000; index += 1) {
      recent.set(`other ${index}`, 'c');
      if (index % 20 === 0) expect(recent.get('in use')).toBe('a');
    }
    expect(recent.get('not in use')).toBeUndefined();
  });

  it('counts a text once, and keeps the latest value of it', () => {
    const recent = new Recent<number>(100);
    recent.set('first', 0);
    for (let index = 0; index < 1_000; index += 1) recent.set('again', index);
    expect([recent.get('first'), recent.get('again')]).toEqual([0, 999]);
  });

  it('a reader reads a text once, but one longer than a formula each time', () => {
    const read: string[] = [];
    const reader = remember((text) => {
      read.push(text);
      return { length: text.length };
    });
    const long = 'x'.repeat(301);
    expect(reader('a + b')).toBe(reader('a + b'));
    expect(reader(long)).not.toBe(reader(long));
    expect(read).toEqual(['a + b', long, long]);
  });
});

/** Megabytes in use once garbage is collected. */
function heap(): number {
  setFlagsFromString('--expose-gc');
  (runInNewContext('gc') as () => void)();
  return process.memoryUsage().heapUsed / 1e6;
}

describe('what is kept of a text', () => {
  // Two hundred documents of half a megabyte, each with a line of its own.
  const cut = (index: number): string => `${'x'.repeat(500_000)}\nlevel: { value: ${index}, unit: m }\n`.slice(500_001);

  it('does not keep the text that it was cut from', () => {
    const reader = remember((text) => ({ text }));
    const before = heap();
    const kept = Array.from({ length: 200 }, (_, index) => reader(cut(index)));
    expect(heap() - before).toBeLessThan(20);
    expect(kept).toHaveLength(200);
  });

  it('nor does a piece of a document', () => {
    const before = heap();
    const kept = Array.from({ length: 200 }, (_, index) => blocksOf(cut(index), []));
    expect(heap() - before).toBeLessThan(20);
    expect(kept).toHaveLength(200);
  });
});

describe('a program that is kept', () => {
  it('does not keep the run it was used for, nor the model behind it', async () => {
    const project = (): CheckedProject =>
      projectOf({
        'components/c.yaml': 'component: C\noutputs: { n: { type: LREAL } }\nbehaviour: { kind: routine, period: 20 ms, body: "n := n + 1.0;" }\n',
        'loops/l.yaml': 'loop: l\ncomponents: { c: { use: C } }\nsolver: { method: runge-kutta-4, step: 20 ms }\nstop: 4 s\n',
        'cases/c.yaml': 'case: only\nloop: l\n',
      });
    const run = (): WeakRef<object> => {
      // Of the same text: the second uses the program that was made for the first.
      const { experiment } = project().cases[0] as CheckedCase;
      simulate(experiment);
      return new WeakRef(experiment.plan);
    };
    const gone = [run(), run()];
    // A reference is not let go within the turn of the event loop in which it was made, and code that is being compiled beside it holds what it was given.
    await expect
      .poll(() => {
        heap();
        // Not the plans themselves, which whoever waits would hold.
        return gone.map((one) => one.deref() === undefined);
      })
      .toEqual([true, true]);
  });
});

describe('pieces of a document', () => {
  const entry = (name: string): string => `${name}: { value: 1, about: ${name.repeat(40)} }\n`;
  const text = ['a', 'b', 'c', 'd'].map(entry).join('');

  it('are those of the version before wherever its text is the same', () => {
    const first = blocksOf(text, []);
    const second = blocksOf(text.replace('value: 1', 'value: 2'), [first.pieces]);
    expect(second.root).toBeDefined();
    expect(second.pieces.get(entry('a'))).toBeUndefined();
    for (const name of ['b', 'c', 'd']) expect(second.pieces.get(entry(name))).toBe(first.pieces.get(entry(name)));
    expect([first.pieces.size, second.pieces.size]).toEqual([4, 4]);
  });

  it('outlast a version that has an error, and grow by none of them', () => {
    const first = blocksOf(text, []);
    let before = [first.pieces];
    for (let typed = 1; typed < 50; typed += 1) {
      const broken = blocksOf(text.replace('b: {', `b: ${'{'.repeat(typed + 1)}`), before);
      expect(broken.root).toBeUndefined();
      before = [broken.pieces, ...before].slice(0, 4);
    }
    const fixed = blocksOf(text, before);
    expect(fixed.pieces.get(entry('d'))).toBe(first.pieces.get(entry('d')));
    expect(before.map((pieces) => pieces.size)).toEqual([4, 4, 4, 4]);
  });
});
