import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Document, isMap, isScalar, isSeq, LineCounter, parseDocument } from 'yaml';
import { Faults } from '@/core/fault';
import { readYaml } from '@/core/yaml';
import { readFolder } from '@/server/folder';

type Path = readonly (string | number)[];
interface Stands {
  readonly kind: 'key' | 'value';
  readonly path: Path;
  readonly at: string;
}

/** What the library says of a text as a whole: its value, and line and column of every key and value by path. */
function asAWhole(text: string): { value: unknown; places: readonly Stands[] } | undefined {
  const lineCounter = new LineCounter();
  const document = parseDocument(text, { lineCounter, uniqueKeys: true, prettyErrors: false, version: '1.2', schema: 'core' });
  if (document.errors.length > 0) return undefined;
  const places: Stands[] = [];
  const note = (kind: Stands['kind'], path: Path, offset: number | undefined): void => {
    const { line, col } = lineCounter.linePos(offset ?? 0);
    places.push({ kind, path, at: `${line}:${col}` });
  };
  const walk = (node: unknown, path: Path): void => {
    if (isMap(node) || isSeq(node) || isScalar(node)) note('value', path, node.range?.[0]);
    if (isSeq(node)) for (const [index, item] of node.items.entries()) walk(item, [...path, index]);
    if (!isMap(node)) return;
    for (const pair of node.items) {
      if (!isScalar(pair.key)) continue;
      const inside = [...path, String(pair.key.value)];
      note('key', inside, pair.key.range?.[0]);
      walk(pair.value, inside);
    }
  };
  walk(document.contents, []);
  return { value: withoutAliases(document), places };
}

/** An alias without its anchor shows only when its value is asked for. */
function withoutAliases(document: Document): unknown {
  try {
    return document.toJS();
  } catch {
    return undefined;
  }
}

function expectSame(file: string, text: string): boolean {
  const whole = asAWhole(text);
  const faults = new Faults();
  const read = readYaml(file, text, faults);
  if (!whole || faults.count > 0) return false;
  expect(read?.value).toEqual(whole.value);
  for (const { kind, path, at } of whole.places) {
    const said = kind === 'key' ? read?.keyPlace(path) : read?.place(path);
    expect(`${kind} ${path.join('/')} ${said?.line}:${said?.column}`).toBe(`${kind} ${path.join('/')} ${at}`);
  }
  return true;
}

const demos = ['demo/tarn-lock', 'demo/autoclave', 'demo/quay-crane'];

describe('a document read in pieces', () => {
  it.each(demos)('%s: values and places are those of the whole text', async (folder) => {
    const { files } = await readFolder(folder);
    const documents = files.filter((file) => file.path.endsWith('.yaml'));
    expect(documents.filter((file) => expectSame(file.path, file.text))).toHaveLength(documents.length);
  });

  it('also after a line is cut, moved, indented or typed into, or refused with the same faults', async () => {
    const { files } = await readFolder('demo/tarn-lock');
    const texts = files.filter((file) => file.path.endsWith('.yaml')).map((file) => file.text);
    const change = fc.record({
      text: fc.constantFrom(...texts),
      at: fc.nat(),
      to: fc.nat(),
      how: fc.constantFrom('cut', 'move', 'twice', 'less', 'more', 'type', 'blank'),
      typed: fc.constantFrom(
        'key: |',
        'a: "x',
        '- one',
        '# said',
        '? odd',
        '---',
        '  "q": 1',
        '&a b',
        '\tx: 1',
        'true: 1',
        'b: >-',
        '    deep: er',
        'c: {',
        '...',
        'd: *a',
        '__proto__: 1',
      ),
    });
    let compared = 0;
    fc.assert(
      fc.property(change, ({ text, at, to, how, typed }) => {
        const lines = text.split('\n');
        const index = at % lines.length;
        const line = lines[index] ?? '';
        if (how === 'cut') lines.splice(index, 1);
        if (how === 'move') lines.splice(to % lines.length, 0, ...lines.splice(index, 1));
        if (how === 'twice') lines.splice(to % lines.length, 0, line);
        if (how === 'less') lines[index] = line.replace(/^ {2}/, '');
        if (how === 'more') lines[index] = `  ${line}`;
        if (how === 'type') lines.splice(index, 0, `${/^ */.exec(line)?.[0] ?? ''}${typed}`);
        if (how === 'blank') lines.splice(index, 0, '', '   ');
        const changed = lines.join('\n');
        if (expectSame('changed.yaml', changed)) compared += 1;
        // What the library refuses is refused here.
        const faults = new Faults();
        readYaml('changed.yaml', changed, faults);
        if (!asAWhole(changed)) expect(faults.count).toBeGreaterThan(0);
      }),
      { numRuns: 1_500 },
    );
    expect(compared).toBeGreaterThan(300);
  });
});
