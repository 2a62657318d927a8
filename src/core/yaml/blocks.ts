import { isMap, isSeq, type Node, type Pair, parseDocument } from 'yaml';
import { ownText } from '@/core/memory';

/**
 * A document in pieces. The YAML library reads a document as a whole, and of one that is being typed all but a few lines stay as they were: block mappings and lists are therefore
 * taken apart by their indentation, and the library reads only the pieces it has not seen. Whatever is not plainly apart (odd keys, markers, tabs, repeated keys), and whatever has
 * an error, is left to the library as a whole, so that a message never depends on this.
 */
export type Block = Piece | Mapping | List;

/** What the library has read; the places of its nodes count from `base`. */
export interface Piece {
  readonly kind: 'piece';
  readonly base: number;
  readonly node: Node | null;
}

export interface Mapping {
  readonly kind: 'mapping';
  readonly base: number;
  readonly entries: ReadonlyMap<string, Entry>;
}

export interface List {
  readonly kind: 'list';
  readonly base: number;
  readonly items: readonly Block[];
}

export interface Entry {
  /** Offset of the key. */
  readonly key: number;
  readonly value: Block;
}

/** What the library made of pieces, by their text; undefined if there is an error in one. */
export type Pieces = ReadonlyMap<string, Node | null | undefined>;
type Read = (text: string) => Node | null | undefined;

/**
 * @param before pieces of former versions of the document, the latest first
 * @returns the document in pieces, or no root if the library has to read it whole; and its pieces, for the versions to come.
 */
export function blocksOf(text: string, before: readonly Pieces[]): { readonly root: Block | undefined; readonly pieces: Pieces } {
  const pieces = new Map<string, Node | null | undefined>();
  const read: Read = (part) => {
    const known = [pieces, ...before].find((one) => one.has(part));
    const own = ownText(part);
    const contents = known ? known.get(part) : readPiece(own);
    pieces.set(own, contents);
    return contents;
  };
  const root = apart(linesOf(text), 0, read);
  // Where a document is apart no longer, what stands behind that place was not looked at, and will be wanted again.
  return { root, pieces: root ? pieces : (before[0] ?? pieces) };
}

function readPiece(text: string): Node | null | undefined {
  const document = parseDocument(text, { uniqueKeys: true, prettyErrors: false, version: '1.2', schema: 'core' });
  return document.errors.length > 0 ? undefined : document.contents;
}

interface Line {
  readonly offset: number;
  readonly text: string;
  readonly indent: number;
  /** Blank, or nothing but a comment. Within a text over several lines a comment is content; such lines stand deeper than the key, and nobody asks. */
  readonly empty: boolean;
}

/** Shorter ones are read at once: a piece has its price. */
const smallestApart = 300;

const key = /^([A-Za-z_](?:[\w.-]*\w)?):(?=\s|$)/;
/** Keys that are no text to the library, or refused. */
const notPlain = /^(true|false|null|__proto__)$/i;

function linesOf(text: string): Line[] {
  const lines: Line[] = [];
  for (let offset = 0; offset < text.length; ) {
    const end = text.indexOf('\n', offset);
    const next = end < 0 ? text.length : end + 1;
    const line = text.slice(offset, next);
    const indent = line.search(/[^ ]/);
    lines.push({ offset, text: line, indent, empty: /^\s*(#|$)/.test(line) });
    offset = next;
  }
  return lines;
}

/** @param least smallest indentation the lines may have. */
function apart(lines: readonly Line[], least: number, read: Read): Mapping | List | undefined {
  const first = lines.find((line) => !line.empty);
  if (!first || first.indent < least) return undefined;
  return isItem(first) ? listOf(lines, first, read) : mappingOf(lines, first, read);
}

function isItem(line: Line): boolean {
  return /^ *-(\s|$)/.test(line.text);
}

/** Lines from one start to the next; undefined if a line stands further left, or at the same indentation without being a start. */
function groups(lines: readonly Line[], indent: number, isStart: (line: Line) => boolean, belongs: (line: Line) => boolean): Line[][] | undefined {
  const result: Line[][] = [];
  for (const line of lines) {
    const group = result.at(-1);
    if (line.empty || line.indent > indent) group?.push(line);
    else if (line.indent === indent && isStart(line)) result.push([line]);
    else if (line.indent === indent && group && belongs(line)) group.push(line);
    else return undefined;
  }
  return result;
}

function mappingOf(lines: readonly Line[], first: Line, read: Read): Mapping | undefined {
  const { indent } = first;
  // A list may stand at the indentation of its key.
  const found = groups(lines, indent, (line) => key.test(line.text.slice(indent)), isItem);
  if (!found) return undefined;
  const entries = new Map<string, Entry>();
  for (const group of found) {
    const start = group[0] as Line;
    const name = key.exec(start.text.slice(indent))?.[1] ?? '';
    const value = notPlain.test(name) || entries.has(name) ? undefined : valueIn(group, name, read);
    if (!value) return undefined;
    entries.set(name, { key: start.offset + indent, value });
  }
  return { kind: 'mapping', base: first.offset + indent, entries };
}

function valueIn(group: readonly Line[], name: string, read: Read): Block | undefined {
  const start = group[0] as Line;
  const alone = start.text.slice(start.indent + name.length + 1).trim() === '';
  const nested = alone && sizeOf(group) >= smallestApart ? apart(group.slice(1), start.indent, read) : undefined;
  if (nested) return nested;
  return piece(group, read, (contents) =>
    isMap(contents) && contents.items.length === 1 ? ((contents.items[0] as Pair).value as Node | null) : undefined,
  );
}

function listOf(lines: readonly Line[], first: Line, read: Read): List | undefined {
  const found = groups(lines, first.indent, isItem, () => false);
  const items = found?.map((group) =>
    piece(group, read, (contents) => (isSeq(contents) && contents.items.length === 1 ? (contents.items[0] as Node | null) : undefined)),
  );
  if (!items || items.some((item) => !item)) return undefined;
  return { kind: 'list', base: first.offset + first.indent, items: items as Block[] };
}

function sizeOf(group: readonly Line[]): number {
  const [first, last] = [group[0] as Line, group.at(-1) as Line];
  return last.offset + last.text.length - first.offset;
}

function piece(group: readonly Line[], read: Read, inside: (contents: Node | null) => Node | null | undefined): Piece | undefined {
  const contents = read(group.map((line) => line.text).join(''));
  const node = contents === undefined ? undefined : inside(contents);
  return node === undefined ? undefined : { kind: 'piece', base: (group[0] as Line).offset, node };
}
