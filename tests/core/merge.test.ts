import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { clashesOf, mergeDocuments, mergeLines, settledText } from '@/core/merge';

const line = fc.constantFrom('a', 'b', 'c', 'd', '');
const text = fc.array(line, { maxLength: 12 }).map((lines) => lines.join('\n'));
const whole = (base: string, mine: string, theirs: string): string | undefined => {
  const pieces = mergeLines(base, mine, theirs);
  return clashesOf(pieces).length > 0 ? undefined : settledText(pieces, (clash) => clash.mine);
};

describe('merging lines', () => {
  it('takes what one side changed, whatever it was', () => {
    fc.assert(
      fc.property(text, text, (base, changed) => {
        expect(whole(base, changed, base)).toBe(changed);
        expect(whole(base, base, changed)).toBe(changed);
        expect(whole(base, changed, changed)).toBe(changed);
      }),
    );
  });

  it('is the same from both sides, and each clash tells the place of my lines', () => {
    fc.assert(
      fc.property(text, text, text, (base, mine, theirs) => {
        expect(whole(base, mine, theirs)).toBe(whole(base, theirs, mine));
        const clashes = clashesOf(mergeLines(base, mine, theirs));
        for (const clash of clashes) expect(mine.split('\n').slice(clash.line - 1, clash.line - 1 + clash.mine.length)).toEqual(clash.mine);
      }),
    );
  });

  it('holds the changes of both where they are apart', () => {
    expect(whole('1\n2\n3\n4\n5', '1\ntwo\n3\n4\n5', '1\n2\n3\n4\nfive')).toBe('1\ntwo\n3\n4\nfive');
    expect(whole('1\n2\n3\n', '0\n1\n2\n3\n', '1\n2\n3\n4\n')).toBe('0\n1\n2\n3\n4\n');
    expect(clashesOf(mergeLines('1\n2\n3', '1\nzwei\n3', '1\ndeux\n3'))).toEqual([{ base: ['2'], mine: ['zwei'], theirs: ['deux'], line: 2 }]);
  });
});

describe('merging documents', () => {
  const files = (of: Record<string, string>) => Object.entries(of).map(([path, content]) => ({ path, text: content }));

  it('by document, then by line', () => {
    const base = files({ a: '1\n2\n3', b: 'b', c: 'c', d: 'd' });
    const mine = files({ a: 'one\n2\n3', b: 'mine', d: 'd', own: 'o' });
    const theirs = files({ a: '1\n2\nthree', b: 'b', c: 'c', d: 'theirs', other: 'p' });
    expect(mergeDocuments(base, mine, theirs)).toEqual({
      files: files({ a: 'one\n2\nthree', b: 'mine', d: 'theirs', other: 'p', own: 'o' }),
      clashes: [],
    });
  });

  it('tells what clashes: the same lines, a document taken away that was changed, two made under one name', () => {
    const { clashes } = mergeDocuments(
      files({ a: 'x', gone: 'g', left: 'l' }),
      files({ a: 'mine', left: 'changed', made: 'one' }),
      files({ a: 'theirs', gone: 'changed', made: 'two' }),
    );
    expect(clashes.map(({ path, clashes: lines }) => [path, lines.length])).toEqual([
      ['a', 1],
      ['gone', 0],
      ['left', 0],
      ['made', 1],
    ]);
  });

  it('loses no change of either side: every merged document is one of the three texts or made of all', () => {
    const tree = fc.dictionary(fc.constantFrom('p', 'q', 'r'), text);
    fc.assert(
      fc.property(tree, tree, tree, (base, mine, theirs) => {
        const merged = mergeDocuments(files(base), files(mine), files(theirs));
        const at = new Map(merged.files.map((file) => [file.path, file.text]));
        const clashing = new Set(merged.clashes.map((one) => one.path));
        for (const path of ['p', 'q', 'r']) {
          if (clashing.has(path)) continue;
          if (mine[path] === base[path]) expect(at.get(path)).toBe(theirs[path]);
          if (theirs[path] === base[path]) expect(at.get(path)).toBe(mine[path]);
        }
      }),
    );
  });
});
