import { isAlias, isMap, isNode, isScalar, isSeq, LineCounter, parseDocument, type YAMLMap } from 'yaml';
import { type Fault, type FaultCode, Faults, type Place } from '@/core/fault';
import { Recent } from '@/core/memory';
import { sentenceOf } from '@/core/wording';
import { type Block, blocksOf, type Pieces } from './blocks';
import { deepest, isTooDeep } from './depth';
import type { Path } from './nodes';
import { keyOffset, type Located, valueAt } from './places';

/** Largest document that is read, in characters. */
export const largestDocument = 2_000_000;

/** A YAML document as plain values, which can still say where each value stands in the text. */
export interface ReadDocument {
  readonly file: string;
  readonly value: unknown;
  readonly sound: boolean;
  /** Place of the value at a path (the nearest enclosing one if it is absent). */
  place(path: Path): Place;
  /** Place of the key itself. */
  keyPlace(path: Path): Place;
  /** The way to the places of the characters inside a text value, for faults within formulas and sentences. */
  placesWithin(path: Path): (offset: number) => Place;
}

/**
 * Reads one YAML 1.2 document. Anchors, aliases, tags and duplicate keys are refused: a document says each thing once, in the open.
 * All faults are gathered. After an error in the text the value holds what could still be read, so that one slip does not hide
 * everything that depends on the document; `sound` says whether it is whole.
 */
export function readYaml(file: string, text: string, faults: Faults): ReadDocument | undefined {
  const versions = documents.get(file) ?? [];
  const known = versions.find((version) => version.text === text) ?? parse(file, text, versions);
  // The latest stands in front.
  documents.set(file, [known, ...versions.filter((version) => version !== known)].slice(0, mostVersions));
  for (const { code, place, message, fix } of known.faults) faults.add(code, place, message, fix);
  return known.document;
}

interface Version {
  readonly text: string;
  readonly document: ReadDocument | undefined;
  readonly faults: readonly Fault[];
  readonly pieces: Pieces;
}

/**
 * Documents read before, by file: while one is edited, all others of a project stay as they are. Few versions of each are kept, since a document that is being typed
 * has hundreds, and the collection of garbage looks at all that is kept.
 */
const documents = new Recent<readonly Version[]>(20_000);
const mostVersions = 4;

function parse(file: string, text: string, before: readonly Version[]): Version {
  const faults = new Faults();
  if (text.length > largestDocument) {
    faults.add(
      'file-too-large',
      { file, line: 1, column: 1 },
      `The file has ${text.length} characters; at most ${largestDocument} are read.`,
      'Split the document, or keep recorded data in CSV files.',
    );
    return { text, document: undefined, faults: faults.all(), pieces: new Map() };
  }
  if (isTooDeep(text)) {
    faults.add(
      'yaml',
      { file, line: 1, column: 1 },
      'The document is nested too deeply to be read.',
      `Lists and mappings may be ${deepest} levels deep.`,
    );
    return { text, document: undefined, faults: faults.all(), pieces: new Map() };
  }
  const { root, pieces } = blocksOf(
    text,
    before.map((version) => version.pieces),
  );
  const document = (root && readInPieces(file, text, root)) ?? readWhole(file, text, faults);
  return { text, document, faults: faults.all(), pieces };
}

/** Most documents are without an error in their text, and known but for a few lines. */
function readInPieces(file: string, text: string, root: Block): ReadDocument | undefined {
  const found = new Faults();
  const value = plainBlock(root, new Plain(() => ({ file, line: 1, column: 1 }), found));
  return found.count > 0 ? undefined : located(file, text, root, value, true);
}

function plainBlock(block: Block, plain: Plain): unknown {
  if (block.kind === 'piece') return plain.value(block.node);
  if (block.kind === 'list') return block.items.map((item) => plainBlock(item, plain));
  return Object.fromEntries([...block.entries].map(([key, entry]) => [key, plainBlock(entry.value, plain)]));
}

function readWhole(file: string, text: string, faults: Faults): ReadDocument | undefined {
  const start = { file, line: 1, column: 1 };
  const document = parseDocument(text, { uniqueKeys: true, prettyErrors: false, version: '1.2', schema: 'core' });
  const placeAt = placesOf(file, text);
  const before = faults.count;
  for (const error of document.errors) {
    const duplicate = error.code === 'DUPLICATE_KEY';
    faults.add(
      duplicate ? 'yaml-duplicate-key' : 'yaml',
      placeAt(error.pos[0]),
      duplicate ? 'This key appears twice in the same mapping.' : sentenceOf(`This is not valid YAML: ${firstLine(error.message)}`),
      duplicate ? 'Keep one of the two, or give one another name.' : 'Check indentation, colons and quotes here and on the line above.',
    );
  }
  const value = new Plain(placeAt, faults).value(document.contents);
  if (document.contents === null && faults.count === before) {
    faults.add('yaml', start, 'The document is empty.', 'Write it, or remove the file. The shapes of documents are listed in docs/language.md.');
    return undefined;
  }
  return located(file, text, { kind: 'piece', base: 0, node: document.contents }, value, faults.count === before);
}

function placesOf(file: string, text: string): (offset: number) => Place {
  let lines: LineCounter | undefined;
  return (offset) => {
    lines ??= linesOf(text);
    const { line, col } = lines.linePos(offset);
    return { file, line: Math.max(1, line), column: Math.max(1, col) };
  };
}

function linesOf(text: string): LineCounter {
  const lines = new LineCounter();
  for (let at = 0; at >= 0; at = text.indexOf('\n', at) + 1 || -1) lines.addNewLine(at);
  return lines;
}

function located(file: string, text: string, root: Block, value: unknown, sound: boolean): ReadDocument {
  const placeAt = placesOf(file, text);
  return {
    file,
    value,
    sound,
    place: (path) => new LaterPlace(file, () => placeAt(valueAt(root, path).from)),
    keyPlace: (path) => new LaterPlace(file, () => placeAt(keyOffset(root, path) ?? valueAt(root, path).from)),
    placesWithin: (path) => {
      let locate: ((offset: number) => number) | undefined;
      return (offset) =>
        new LaterPlace(file, () => {
          locate ??= locatorOf(valueAt(root, path), text);
          return placeAt(locate(offset));
        });
    },
  };
}

/** Looked up when somebody asks: a check names the place of nearly everything it meets, and tells of hardly any. */
class LaterPlace implements Place {
  private found: Place | undefined;

  constructor(
    readonly file: string,
    private readonly find: () => Place,
  ) {}

  get line(): number {
    this.found ??= this.find();
    return this.found.line;
  }

  get column(): number {
    this.found ??= this.find();
    return this.found.column;
  }
}

function firstLine(message: string): string {
  return (message.split('\n')[0] ?? '').replace(/[.:]?\s*$/, '');
}

/** What becomes of a document on the way to plain values: anchors, aliases and keys that are not plain text are told, and left out. */
class Plain {
  constructor(
    private readonly placeAt: (offset: number) => Place,
    private readonly faults: Faults,
  ) {}

  value(node: unknown): unknown {
    if (isAlias(node)) {
      this.refuse('yaml-alias', node, 'Aliases (*name) are not supported.', 'Write the value out where it is used.');
      return null;
    }
    this.anchor(node);
    if (isMap(node)) return this.mapping(node);
    if (isSeq(node)) return node.items.map((item) => this.value(item));
    // A key without a value is there, and empty.
    return isScalar(node) ? node.value : null;
  }

  private mapping(node: YAMLMap): unknown {
    const result: Record<string, unknown> = {};
    for (const pair of node.items) {
      const { key } = pair;
      this.anchor(key);
      if (!isScalar(key)) this.refuse('yaml', key, 'A key must be plain text.', 'Put the text in quotes.');
      else if (String(key.value) === '__proto__')
        this.refuse('name', key, '"__proto__" is not a name.', 'Names are letters, digits and single underscores.');
      const value = this.value(pair.value);
      if (isScalar(key) && String(key.value) !== '__proto__') result[String(key.value)] = value;
    }
    return result;
  }

  private anchor(node: unknown): void {
    if (isNode(node) && !isAlias(node) && node.anchor)
      this.refuse('yaml-alias', node, 'Anchors (&name) are not supported.', 'Remove the anchor and write the value out where it is used.');
  }

  private refuse(code: FaultCode, node: unknown, message: string, fix: string): void {
    this.faults.add(code, this.placeAt((isNode(node) ? node.range?.[0] : undefined) ?? 0), message, fix);
  }
}

/** The way from an offset in a text value to the offset in the document. */
function locatorOf({ node, from, base }: Located, text: string): (offset: number) => number {
  if (!isScalar(node) || typeof node.value !== 'string') return () => from;
  if (node.type === 'BLOCK_LITERAL') {
    // The n-th line of the value is the n-th line after the header line; blanks of indentation come in front.
    const header = text.indexOf('\n', from) + 1;
    const indent = /^[ ]*/.exec(text.slice(header, header + 200))?.[0].length ?? 0;
    const lines: { value: number; document: number }[] = [{ value: 0, document: header }];
    for (let at = node.value.indexOf('\n'); at >= 0; at = node.value.indexOf('\n', at + 1)) {
      const last = lines.at(-1) as { document: number };
      lines.push({ value: at + 1, document: text.indexOf('\n', last.document) + 1 });
    }
    return (offset) => {
      const line = lines.findLast((one) => one.value <= offset) ?? { value: 0, document: header };
      return line.document + indent + offset - line.value;
    };
  }
  const quoted = node.type === 'QUOTE_DOUBLE' || node.type === 'QUOTE_SINGLE' ? 1 : 0;
  const end = node.range ? base + node.range[1] : from;
  return (offset) => Math.min(from + quoted + offset, end);
}
