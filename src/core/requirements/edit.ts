import { Document, isMap, isSeq, visit, type YAMLMap, type YAMLSeq } from 'yaml';
import { nodeAtPath, type Path, parsedYaml } from '@/core/yaml';

/** One change to a requirement as it stands in its document. */
export type RequirementChange =
  /** Writes a criterion down; with `by` it counts at once. */
  | { readonly k: 'add'; readonly criterion: string; readonly sentence: string; readonly by?: string; readonly on?: string }
  | { readonly k: 'sentence'; readonly index: number; readonly sentence: string }
  | { readonly k: 'accept'; readonly index: number; readonly by: string; readonly on: string }
  /** Takes the acceptance back: the criterion counts for nothing again. */
  | { readonly k: 'take back'; readonly index: number }
  | { readonly k: 'remove'; readonly index: number }
  /** Notes that a reading is not what is meant, so that it is not proposed again. */
  | { readonly k: 'reject'; readonly sentence: string }
  /** New prose: what was accepted for the old one is to be confirmed. */
  | { readonly k: 'text'; readonly text: string }
  /** Takes the requirement out of its document. */
  | { readonly k: 'drop' };

/**
 * Changes one requirement in the text of its document. Only the requirement's own lines are written anew, with their comments; all others stay as they are.
 * @param path of the requirement in the document
 * @returns `undefined` when there is no such requirement, or it holds an alias: such a document is refused, and cannot be written anew in part
 */
export function editRequirement(text: string, path: Path, change: RequirementChange): string | undefined {
  const document = parsedYaml(text);
  const node = nodeAtPath(document.contents, path);
  if (!node || !isMap(node) || !node.range || hasAlias(node)) return undefined;
  if (change.k === 'drop') return emptyList(without(text, node));
  apply(node, change, document);
  return withNode(text, node);
}

function hasAlias(node: YAMLMap): boolean {
  let found = false;
  visit(node, {
    Alias: () => {
      found = true;
      return visit.BREAK;
    },
  });
  return found;
}

function apply(requirement: YAMLMap, change: Exclude<RequirementChange, { k: 'drop' }>, document: Document): void {
  const create = (value: unknown): unknown => document.createNode(value);
  const list = (key: string): YAMLSeq => {
    const known = requirement.get(key, true);
    if (isSeq(known)) return known;
    const made = document.createNode([]) as YAMLSeq;
    requirement.set(key, made);
    return made;
  };
  const criterion = (index: number): YAMLMap | undefined => {
    const found = list('criteria').items[index];
    return isMap(found) ? found : undefined;
  };
  switch (change.k) {
    case 'add': {
      const accepted = change.by === undefined ? {} : { accepted: { by: change.by, on: change.on } };
      list('criteria').add(create({ criterion: change.criterion, sentence: change.sentence, ...accepted }));
      return;
    }
    case 'sentence':
      criterion(change.index)?.set('sentence', change.sentence);
      // Who accepted another sentence has not accepted this one.
      criterion(change.index)?.delete('accepted');
      return;
    case 'accept':
      criterion(change.index)?.set('accepted', create({ by: change.by, on: change.on }));
      return;
    case 'take back':
      criterion(change.index)?.delete('accepted');
      return;
    case 'remove':
      list('criteria').delete(change.index);
      if (list('criteria').items.length === 0) requirement.delete('criteria');
      return;
    case 'text':
      requirement.set('text', change.text);
      if (requirement.has('criteria')) for (const one of list('criteria').items) if (isMap(one)) one.delete('accepted');
      return;
    case 'reject':
      list('rejected').add(create(change.sentence));
  }
}

/** A list that has lost its last entry is an empty one. */
function emptyList(text: string): string {
  return isSeq(nodeAtPath(parsedYaml(text).contents, ['requirements'])) ? text : text.replace(/^requirements:[ \t]*$/m, 'requirements: []');
}

/** The text without one entry of a block list, its dash and the comments inside it; an entry of a list in brackets goes with its comma. */
function without(text: string, node: YAMLMap): string {
  const [from, , end] = node.range as [number, number, number];
  const dash = text.lastIndexOf('-', from - 1);
  const line = text.lastIndexOf('\n', from - 1) + 1;
  if (dash >= line && text.slice(line, dash).trim() === '')
    return `${text.slice(0, line)}${text.slice(end).replace(/^\n/, text[end - 1] === '\n' ? '\n' : '')}`;
  return `${text.slice(0, from).replace(/,\s*$/, '')}${text.slice(end)}`;
}

/** The text with one mapping written anew where it stood. */
function withNode(text: string, node: YAMLMap): string {
  const [from, until] = node.range as [number, number, number];
  const column = from - (text.lastIndexOf('\n', from - 1) + 1);
  const printed = new Document(node).toString({ lineWidth: 0, flowCollectionPadding: true }).trimEnd();
  const indented = printed.split('\n').map((line, index) => (index === 0 || line === '' ? line : ' '.repeat(column) + line));
  const tail = /\s*$/.exec(text.slice(from, until))?.[0] ?? '';
  return `${text.slice(0, from)}${indented.join('\n')}${tail}${text.slice(until)}`;
}
