import { isCollection, isMap, isNode, isScalar, type Node } from 'yaml';
import { parsedYaml } from './depth';
import type { Path } from './nodes';

/** A value to be written at a path of a document; `undefined` takes out what is there. */
export interface DocumentChange {
  readonly path: Path;
  readonly value: unknown;
}

/**
 * A document with some of its values written anew. Comments and the order of keys stay; what is written anew stands on one line where it is small.
 * @returns `undefined` for a text that is no YAML, or where a path leads through something that is no list and no mapping
 */
export function changeDocument(text: string, changes: readonly DocumentChange[]): string | undefined {
  const document = parsedYaml(text);
  if (document.errors.length > 0) return undefined;
  try {
    for (const { path, value } of changes) {
      if (value === undefined) document.deleteIn([...path]);
      else document.setIn([...path], onOneLine(document.createNode(value)));
    }
  } catch {
    return undefined;
  }
  return document.toString({ lineWidth: 0, flowCollectionPadding: true });
}

/** Up to so many entries, none of which holds others, stand on one line. */
const mostOnLine = 8;

/** Written as a person would. */
function onOneLine(node: Node): Node {
  // Truths as the languages of controllers write them.
  if (isScalar(node) && typeof node.value === 'boolean') node.source = node.value ? 'TRUE' : 'FALSE';
  if (!isCollection(node)) return node;
  const inside: unknown[] = isMap(node) ? node.items.map((pair) => pair.value) : node.items;
  for (const one of inside) if (isNode(one)) onOneLine(one);
  node.flow = inside.length <= mostOnLine && inside.every((one) => !isCollection(one) || one.flow === true);
  return node;
}
