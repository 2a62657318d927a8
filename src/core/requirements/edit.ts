import { Document, isMap, isSeq, parseDocument, type YAMLMap, type YAMLSeq } from 'yaml';
import { nodeAtPath, type Path } from '../document';

/** One change to a requirement as it stands in its document. */
export type RequirementChange =
  /** Writes a criterion down; with `by` it counts at once. */
  | { readonly k: 'add'; readonly criterion: string; readonly sentence: string; readonly by?: string; readonly on?: string }
  | { readonly k: 'sentence'; readonly index: number; readonly sentence: string }
  | { readonly k: 'accept'; readonly index: number; readonly by: string; readonly on: string }
  /** Takes the acceptance back: the criterion counts for nothing again. */
  | { readonly k: 'doubt'; readonly index: number }
  | { readonly k: 'remove'; readonly index: number }
  /** Notes that a reading is not what is meant, so that it is not proposed again. */
  | { readonly k: 'reject'; readonly sentence: string };

/**
 * Changes one requirement in the text of its document. Only the requirement's own lines are written anew, with their comments; all others stay as they are.
 * @param path of the requirement in the document
 * @returns `undefined` when there is no such requirement
 */
export function editRequirement(text: string, path: Path, change: RequirementChange): string | undefined {
  const document = parseDocument(text, { prettyErrors: false });
  const node = nodeAtPath(document.contents, path);
  if (!node || !isMap(node) || !node.range) return undefined;
  apply(node, change, document);
  return withNode(text, node);
}

function apply(requirement: YAMLMap, change: RequirementChange, document: Document): void {
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
    case 'doubt':
      criterion(change.index)?.delete('accepted');
      return;
    case 'remove':
      list('criteria').delete(change.index);
      if (list('criteria').items.length === 0) requirement.delete('criteria');
      return;
    case 'reject':
      list('rejected').add(create(change.sentence));
  }
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
