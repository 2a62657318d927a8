import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { SourceFile } from '@/core/documents';
import { clashesOf, mergeLines, settledText } from '@/core/merge';
import { type Action, begunOn, changedIn, type Draft, type Drafts, type Head, noDrafts, overtaken, reduce, textOf } from '@/ui/drafts/drafts';
import { DraftShelf } from '@/ui/drafts/shelf';

const headOf = (revision: number, texts: Readonly<Record<string, string>>): Head => ({ revision, text: (path) => texts[path] ?? '' });
const typed = (path: string, text: string, at = 0): Action => ({ k: 'edit', files: [{ path, text }], at, typed: true });
const run = (head: Head, ...actions: Action[]): Drafts => actions.reduce((state, action) => reduce(state, action, head), noDrafts);

class Memory {
  readonly entries = new Map<string, string>();
  constructor(private readonly room = Number.POSITIVE_INFINITY) {}
  get length(): number {
    return this.entries.size;
  }
  key = (index: number): string | null => [...this.entries.keys()][index] ?? null;
  getItem = (key: string): string | null => this.entries.get(key) ?? null;
  removeItem = (key: string): void => void this.entries.delete(key);
  setItem = (key: string, value: string): void => {
    if (value.length > this.room) throw new Error('full');
    this.entries.set(key, value);
  };
}

describe('drafts', () => {
  const three = headOf(3, { a: 'one' });

  it('take a movement of the hand back in one step, however long it took, and the next one apart from it', () => {
    const dragged = (text: string, at: number, movement: number): Action => ({ k: 'edit', files: [{ path: 'a', text }], at, typed: false, movement });
    const state = run(three, dragged('1', 0, 7), dragged('2', 5000, 7), dragged('3', 60_000, 7), dragged('4', 60_010, 8), dragged('5', 60_020, 8));
    expect(state.past).toHaveLength(2);
    const back = reduce(state, { k: 'undo' }, three);
    expect(textOf(back, three, 'a')).toBe('3');
    expect(textOf(reduce(back, { k: 'undo' }, three), three, 'a')).toBe('one');
    expect(textOf(reduce(back, { k: 'redo' }, three), three, 'a')).toBe('5');
  });

  it('pin what they were begun from, whatever the page shows later', () => {
    const state = run(three, typed('a', 'mine'));
    const four = headOf(4, { a: 'theirs' });
    const later = reduce(state, { k: 'follow' }, four);
    expect([begunOn(later), overtaken(later, four), textOf(later, four, 'a')]).toEqual([3, ['a'], 'mine']);
    const more = reduce(later, typed('a', 'mine and more', 5000), four);
    expect(more.texts.get('a')).toEqual({ text: 'mine and more', base: 'one', begun: 3 });
    // Somebody else changed another document only: nothing stands in the way.
    expect(overtaken(state, headOf(4, { a: 'one', b: 'theirs' }))).toEqual([]);
  });

  it('keep what was typed while a save was under way', () => {
    const sent = run(three, typed('a', 'sent'));
    const meanwhile = reduce(sent, typed('a', 'sent, and more', 5000), three);
    const saved = reduce(meanwhile, { k: 'saved', files: [{ path: 'a', text: 'sent' }], revision: 4 }, three);
    expect(changedIn(saved)).toEqual(new Map([['a', 'sent, and more']]));
    const four = headOf(4, { a: 'sent' });
    const shown = reduce(saved, { k: 'follow' }, four);
    expect([changedIn(shown).get('a'), overtaken(shown, four), begunOn(shown)]).toEqual(['sent, and more', [], 4]);
  });

  it('stay on the screen between the save and the page that shows it', () => {
    const saved = reduce(run(three, typed('a', 'sent')), { k: 'saved', files: [{ path: 'a', text: 'sent' }], revision: 4 }, three);
    expect([changedIn(saved).size, textOf(saved, three, 'a'), overtaken(saved, three)]).toEqual([0, 'sent', []]);
    expect(reduce(saved, { k: 'follow' }, headOf(4, { a: 'sent' })).texts.size).toBe(0);
    expect(overtaken(reduce(saved, typed('a', 'next', 9000), three), three)).toEqual([]);
  });

  it('undo nothing that somebody else wrote', () => {
    const saved = reduce(run(three, typed('a', 'sent')), { k: 'saved', files: [{ path: 'a', text: 'sent' }], revision: 4 }, three);
    const five = headOf(5, { a: 'sent\ntheirs' });
    const shown = reduce(saved, { k: 'follow' }, five);
    const undone = reduce(shown, { k: 'undo' }, five);
    expect([textOf(undone, five, 'a'), undone.past.length]).toEqual(['sent\ntheirs', 0]);
  });

  it('lose nobody’s work, however saves, merges, reloads, undo and another’s saves follow each other', () => {
    const step = fc.constantFrom('type', 'theirs', 'other document', 'look', 'send', 'answer', 'undo', 'redo', 'reload', 'merge');
    fc.assert(
      fc.property(fc.array(step, { minLength: 3, maxLength: 40 }), (steps) => {
        let newest = { revision: 1, texts: { a: 'middle', b: 'middle' } as Record<string, string> };
        const revisions = new Map([[1, newest]]);
        let head = headOf(1, newest.texts);
        let state = noDrafts;
        let sent: { readonly base: number; readonly files: SourceFile[] } | undefined;
        const storage = new Memory();
        let shelf = new DraftShelf(storage, 'p');
        const theirs: string[] = [];
        let count = 0;
        const act = (action: Action): void => {
          state = reduce(state, action, head);
        };
        const save = (texts: Record<string, string>): void => {
          newest = { revision: newest.revision + 1, texts: { ...newest.texts, ...texts } };
          revisions.set(newest.revision, newest);
        };
        const other = (path: string): void => {
          count += 1;
          theirs.push(`${path} theirs ${count}`);
          save({ [path]: `${newest.texts[path]}\n${path} theirs ${count}` });
        };
        for (const one of steps) {
          count += 1;
          if (one === 'type') act(typed('a', `mine ${count}\n${textOf(state, head, 'a')}`, count * 10_000));
          if (one === 'theirs') other('a');
          if (one === 'other document') other('b');
          if (one === 'look') {
            head = headOf(newest.revision, newest.texts);
            act({ k: 'follow' });
          }
          if (one === 'undo' || one === 'redo') act({ k: one });
          if (one === 'send' && !sent && changedIn(state).size > 0 && overtaken(state, head).length === 0)
            sent = { base: Math.max(head.revision, state.savedAs), files: [...changedIn(state)].map(([path, text]) => ({ path, text })) };
          if (one === 'answer' && sent) {
            if (sent.base === newest.revision) {
              save(Object.fromEntries(sent.files.map(({ path, text }) => [path, text])));
              act({ k: 'saved', files: sent.files, revision: newest.revision });
            }
            sent = undefined;
          }
          if (one === 'merge' && overtaken(state, head).length > 0) {
            const pieces = mergeLines(state.texts.get('a')!.base, textOf(state, head, 'a'), head.text('a'));
            // My lines stand at the top and theirs at the end: where both are at the same place both stay.
            act({ k: 'merged', files: [{ path: 'a', text: settledText(pieces, (clash) => [...clash.mine, ...clash.theirs]) }] });
            expect(clashesOf(pieces).length).toBeLessThanOrEqual(1);
          }
          shelf.put(new Map([...state.texts].filter(([, { text, base }]) => text !== base)));
          if (one === 'reload' && !sent) {
            head = headOf(newest.revision, newest.texts);
            shelf = new DraftShelf(storage, 'p');
            const before = changedIn(state);
            state = reduce(noDrafts, { k: 'load', texts: shelf.readAll() }, head);
            expect(changedIn(state)).toEqual(before);
          }
        }
        for (const line of theirs) expect(newest.texts[line[0] as string]!.split('\n')).toContain(line);
      }),
      { numRuns: 2000, seed: 20 },
    );
  });
});

describe('the shelf of drafts', () => {
  const draft = (text: string): Draft => ({ text, base: 'x', begun: 3 });

  it('gives back what was put, and lets go of what is no draft any more', () => {
    const storage = new Memory();
    const shelf = new DraftShelf(storage, 'p');
    const all = new Map([
      ['a', draft('1')],
      ['b', draft('2')],
    ]);
    expect(shelf.put(all)).toBe(true);
    expect(new DraftShelf(storage, 'p').readAll()).toEqual(all);
    expect(new DraftShelf(storage, 'other').readAll().size).toBe(0);
    shelf.put(new Map([['b', draft('2')]]));
    expect([...new DraftShelf(storage, 'p').readAll().keys()]).toEqual(['b']);
  });

  it('lets two pages write side by side, and tells each what the other did', () => {
    const storage = new Memory();
    const [one, two] = [new DraftShelf(storage, 'p'), new DraftShelf(storage, 'p')];
    one.put(new Map([['a', draft('1')]]));
    two.put(new Map([['b', draft('2')]]));
    expect([...new DraftShelf(storage, 'p').readAll().keys()].sort()).toEqual(['a', 'b']);
    expect(two.taken('ovrand draft p a', storage.getItem('ovrand draft p a'))).toEqual(['a', draft('1')]);
    expect(two.taken('ovrand draft p a', null)).toEqual(['a', undefined]);
    expect(two.taken('theme', 'dark')).toBeUndefined();
    expect(two.taken('ovrand draft p a', 'no JSON')).toEqual(['a', undefined]);
  });

  it('two pages that type at once keep each other’s words, however late they hear of each other', () => {
    const step = fc.record({ page: fc.constantFrom(0, 1), what: fc.constantFrom('type', 'undo', 'hear', 'render') });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 60 }), (steps) => {
        const storage = new Memory();
        const head = headOf(1, { 'doc 0': '', 'doc 1': '' });
        const pages = [0, 1].map(() => ({ shelf: new DraftShelf(storage, 'p'), state: noDrafts, heard: [] as [string, string | null][] }));
        const unsaved = (state: Drafts) => new Map([...state.texts].filter(([, { text, base }]) => text !== base));
        const render = (index: number): void => {
          const before = new Map(storage.entries);
          pages[index]!.shelf.put(unsaved(pages[index]!.state));
          for (const key of new Set([...before.keys(), ...storage.entries.keys()]))
            if (before.get(key) !== storage.getItem(key)) pages[1 - index]!.heard.push([key, storage.getItem(key)]);
        };
        const hear = (index: number): void => {
          const event = pages[index]!.heard.shift();
          const taken = event && pages[index]!.shelf.taken(...event);
          if (taken) pages[index]!.state = reduce(pages[index]!.state, { k: 'load', texts: new Map([taken]) }, head);
        };
        let count = 0;
        for (const { page, what } of steps) {
          count += 1;
          const own = pages[page]!;
          // Each page writes its own document, as a person does who has two of them open.
          const path = `doc ${page}`;
          if (what === 'type') own.state = reduce(own.state, typed(path, `${textOf(own.state, head, path)}${count} `, count * 10_000), head);
          if (what === 'undo') own.state = reduce(own.state, { k: 'undo' }, head);
          if (what === 'hear') hear(page);
          if (what === 'render') render(page);
        }
        const wanted = [0, 1].map((index) => textOf(pages[index]!.state, head, `doc ${index}`));
        for (let round = 0; round < 5; round += 1)
          for (const index of [0, 1]) {
            render(index);
            while (pages[index]!.heard.length > 0) hear(index);
          }
        for (const { state } of pages) expect([0, 1].map((index) => textOf(state, head, `doc ${index}`))).toEqual(wanted);
        const kept = new DraftShelf(storage, 'p').readAll();
        expect([0, 1].map((index) => kept.get(`doc ${index}`)?.text ?? '')).toEqual(wanted);
      }),
      { numRuns: 3000, seed: 21 },
    );
  });

  it('says when a draft is too large, and leaves no older text in its place', () => {
    const storage = new Memory(60);
    const shelf = new DraftShelf(storage, 'p');
    shelf.put(new Map([['a', draft('small')]]));
    expect(shelf.put(new Map([['a', draft('large '.repeat(20))]]))).toBe(false);
    expect(storage.length).toBe(0);
  });
});
