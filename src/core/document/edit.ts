import { isScalar, parseDocument } from 'yaml';
import { nodeAtPath, type Path } from './yaml';

/**
 * Replaces one plain value in the text of a YAML document; everything else, comments too, stays as it is.
 * @returns `undefined` when there is no plain value at the path
 */
export function replaceScalar(text: string, path: Path, value: number | boolean): string | undefined {
  const node = nodeAtPath(parseDocument(text, { prettyErrors: false }).contents, path);
  if (!node || !isScalar(node) || !node.range) return undefined;
  return `${text.slice(0, node.range[0])}${String(value)}${text.slice(node.range[1])}`;
}
