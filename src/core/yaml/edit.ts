import { isScalar, isSeq } from 'yaml';
import { parsedYaml } from './depth';
import { nodeAtPath, type Path } from './nodes';

/**
 * Replaces one plain value in the text of a YAML document; everything else, comments too, stays as it is.
 * @param value a text must be one that needs no quotes
 * @returns `undefined` when there is no plain value at the path
 */
export function replaceScalar(text: string, path: Path, value: number | boolean | string): string | undefined {
  const node = nodeAtPath(parsedYaml(text).contents, path);
  if (!node || !isScalar(node) || !node.range) return undefined;
  return `${text.slice(0, node.range[0])}${String(value)}${text.slice(node.range[1])}`;
}

/** An entry as it may stand between brackets: on one line. */
function inBrackets(entry: string): string {
  return entry.trimEnd().includes('\n') ? JSON.stringify(parsedYaml(entry).toJS()) : entry.trimEnd();
}

/**
 * Adds entries, written as they are to stand there, at the end of the list under a top-level key; the list is begun when there is none.
 * Everything else, comments too, stays as it is.
 */
export function appendToList(text: string, key: string, entries: readonly string[]): string {
  const node = nodeAtPath(parsedYaml(text).contents, [key]);
  // An entry of several lines stands under its first.
  const lines = (indent: string): string => entries.map((entry) => `${indent}- ${entry.trimEnd().replaceAll('\n', `\n${indent}  `)}\n`).join('');
  if (!isSeq(node) || !node.range) return `${text.replace(/\n*$/, '\n')}${key}:\n${lines('  ')}`;
  if (node.flow) {
    const end = node.range[1] - 1;
    const head = text.slice(0, end).trimEnd();
    return `${head}${node.items.length > 0 && !head.endsWith(',') ? ', ' : ' '}${entries.map(inBrackets).join(', ')}${text.slice(end)}`;
  }
  const start = node.range[0];
  const indent = ' '.repeat(start - (text.lastIndexOf('\n', start - 1) + 1));
  const end = node.range[1];
  const before = text.slice(0, end).replace(/\n*$/, '\n');
  return `${before}${lines(indent)}${text.slice(end).replace(/^\n(?!\n)/, '')}`;
}
