import { type Document, isMap, isPair, isScalar, isSeq, type Pair, visit, type YAMLMap } from 'yaml';
import {
  allowedAt,
  benchShape,
  campaignShape,
  caseShape,
  componentShape,
  coverageShape,
  definitionsShape,
  deskShape,
  loopShape,
  pairingShape,
  parameterSetShape,
  projectShape,
  requirementsShape,
  type Shape,
  sceneShape,
  wordsShape,
} from '@/core/shapes';
import { type Path, parsedYaml } from '@/core/yaml';
import type { DocumentFolder, TopDocument } from './documentPath';

type Written = TopDocument | Exclude<DocumentFolder, 'recordings' | 'units' | 'pictures'>;

const shapes: Readonly<Record<Written, Shape<unknown>>> = {
  'project.yaml': projectShape,
  'definitions.yaml': definitionsShape,
  'words.yaml': wordsShape,
  'coverage.yaml': coverageShape,
  requirements: requirementsShape,
  components: componentShape,
  loops: loopShape,
  pairings: pairingShape,
  cases: caseShape,
  campaigns: campaignShape,
  parameters: parameterSetShape,
  benches: benchShape,
  desks: deskShape,
  scenes: sceneShape,
};

/**
 * Keys that may stand where the cursor is and are not there yet, or the words that the value there is one of.
 * They come from the shape that the document is held against, so that none is offered that would be refused.
 * @param path of the document in its project @param offset of the cursor, in characters of the text
 */
export function suggestionsAt(path: string, text: string, offset: number): readonly string[] {
  const from = offset - (/\w*$/.exec(text.slice(0, offset))?.[0].length ?? 0);
  const shape = /\.ya?ml$/i.test(path) ? shapes[path.replace(/\/.*$/, '') as Written] : undefined;
  if (!shape) return [];
  const line = text.slice(text.lastIndexOf('\n', from - 1) + 1, from);
  const rest = text.slice(offset + (/^\w*/.exec(text.slice(offset))?.[0].length ?? 0));
  const isKey = beforeKey.test(line);
  if (!isKey && !beforeValue.test(line)) return [];
  const colon = isKey && !/^[ \t]*:/.test(rest) ? ':' : '';
  const found = placeIn(parsedYaml(`${text.slice(0, from)}${stand}${colon}${rest}`), isKey);
  if (!found) return [];
  const { keys, values } = allowedAt(shape, found.value, found.path);
  return isKey ? keys.filter((key) => !found.siblings.includes(key)) : values;
}

/** Stands where the cursor is while the text is read. */
const stand = 'what_is_being_written';
/** A key begins a line, after the dashes of a list, or follows a brace or a comma in one. */
const beforeKey = /^[ \t]*(?:- +)*$|[{,][ \t]*$/;
const beforeValue = /:[ \t]+$/;

interface Found {
  readonly path: Path;
  /** The document without what is being written. */
  readonly value: unknown;
  readonly siblings: readonly string[];
}

/** Where in the document the cursor stands: in which mapping as a key, or where as a value. Documents with aliases are refused anyway. */
function placeIn(document: Document.Parsed, isKey: boolean): Found | undefined {
  let hasAlias = false;
  let written: { readonly pair: Pair; readonly map: YAMLMap; readonly path: Path } | undefined;
  visit(document, {
    Alias: () => {
      hasAlias = true;
    },
    Pair: (_, pair, ancestors) => {
      const map = ancestors.at(-1);
      const what = isKey ? pair.key : pair.value;
      if (isMap(map) && isScalar(what) && what.value === stand) written = { pair, map, path: pathOf([...ancestors, pair]) };
    },
  });
  if (!written || hasAlias) return undefined;
  const { pair, map, path } = written;
  map.items.splice(map.items.indexOf(pair), 1);
  return { path: isKey ? path.slice(0, -1) : path, value: document.toJS(), siblings: map.items.map(({ key }) => keyText(key)) };
}

function pathOf(ancestors: readonly unknown[]): Path {
  return ancestors.flatMap((one, index): (string | number)[] => {
    if (isPair(one)) return [keyText(one.key)];
    return isSeq(one) ? [one.items.indexOf(ancestors[index + 1])] : [];
  });
}

function keyText(key: unknown): string {
  return String(isScalar(key) ? key.value : key);
}
