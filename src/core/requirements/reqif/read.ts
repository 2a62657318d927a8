import type { Element } from '@xmldom/xmldom';
import type { Faults } from '@/core/fault';
import { attribute, elementsOf, parseXml, tag } from '@/core/xml';
import { type Relation, type RelationKind, type RequirementItem, splitId, withIds } from '../requirementItem';

/** Names of attributes that tools agree on (OMG ReqIF 1.2 and the implementation guide of its users; from memory). */
const names = {
  text: ['reqif.text', 'text', 'description', 'reqif.description'],
  id: ['reqif.foreignid', 'id', 'identifier', 'foreignid'],
  chapter: ['reqif.chaptername', 'chapter', 'heading', 'reqif.name'],
} as const;

/** A ReqIF document with its objects, so that texts can be changed in it and everything else stays. */
export interface ReqifDocument {
  readonly root: Element;
  readonly objects: readonly SpecObject[];
}

/** One SPEC-OBJECT: its prose, and where it stands. */
export interface SpecObject {
  readonly element: Element;
  readonly identifier: string;
  readonly id: string | undefined;
  readonly chapter: string | undefined;
  readonly text: string;
  /** The attribute value that holds the text. */
  readonly value: Element | undefined;
}

/** Opens a ReqIF 1.2 document (OMG formal/2016-07-01). Document type declarations are refused, so that no entity can grow or reach outside. */
export function openReqif(file: string, text: string, faults: Faults): ReqifDocument | undefined {
  const root = parseXml(file, text, faults);
  if (!root) return undefined;
  if (tag(root) !== 'REQ-IF') {
    faults.add(
      'xml',
      { file, line: 1, column: 1 },
      `This is ${tag(root)}, not a ReqIF document.`,
      'Export it as ReqIF 1.2; an archive (.reqifz) is to be unpacked first.',
    );
    return undefined;
  }
  const titles = new Map(
    all(root, /^ATTRIBUTE-DEFINITION-/).map((one) => [attribute(one, 'IDENTIFIER') ?? '', (attribute(one, 'LONG-NAME') ?? '').toLowerCase()]),
  );
  return { root, objects: all(root, /^SPEC-OBJECT$/).map((element) => objectOf(element, titles)) };
}

function objectOf(element: Element, titles: ReadonlyMap<string, string>): SpecObject {
  const values = all(element, /^ATTRIBUTE-VALUE-/).map((value) => ({
    value,
    title: titles.get(all(value, /^ATTRIBUTE-DEFINITION-.*-REF$/)[0]?.textContent?.trim() ?? '') ?? '',
  }));
  const find = (wanted: readonly string[]): Element | undefined =>
    wanted.flatMap((name) => values.find(({ title }) => title === name)?.value ?? [])[0];
  const value = find(names.text) ?? values.find(({ value: one }) => tag(one) === 'ATTRIBUTE-VALUE-XHTML')?.value;
  const chapter = find(names.chapter);
  const id = find(names.id);
  return {
    element,
    identifier: attribute(element, 'IDENTIFIER') ?? '',
    id: id ? valueText(id) || undefined : undefined,
    chapter: chapter ? valueText(chapter) || undefined : undefined,
    text: value ? valueText(value) : '',
    value,
  };
}

/** Requirements in the order and under the headings of the specifications; objects without text are headings. */
export function readReqif(file: string, text: string, taken: readonly string[], faults: Faults): RequirementItem[] {
  const document = openReqif(file, text, faults);
  if (!document) return [];
  const objects = new Map(document.objects.map((one) => [one.identifier, one]));
  const items: (Omit<RequirementItem, 'id'> & { id?: string; identifier: string })[] = [];
  const seen = new Set<string>();
  const walk = (parent: Element, section: string): void => {
    let under = section;
    for (const node of children(parent, 'CHILDREN')) {
      const object = objects.get(all(node, /^SPEC-OBJECT-REF$/)[0]?.textContent?.trim() ?? '');
      if (object && object.text === '') under = object.chapter ?? under;
      else if (object && !seen.has(object.identifier)) {
        seen.add(object.identifier);
        items.push(itemOf(object, under));
      }
      walk(node, object?.text === '' ? under : section);
    }
  };
  const specifications = all(document.root, /^SPECIFICATION$/);
  for (const one of specifications) walk(one, attribute(one, 'LONG-NAME') ?? 'Requirements');
  for (const object of document.objects) if (!seen.has(object.identifier) && object.text !== '') items.push(itemOf(object, 'Requirements'));
  const named = withIds(items, taken);
  const ids = new Map(items.map((item, index) => [item.identifier, named[index]?.id ?? '']));
  const relations = relationsOf(document.root, ids);
  return named.map(({ id, section, text: prose }, index) => {
    const own = relations.get(items[index]?.identifier ?? '');
    return { id, section, text: prose, ...(own ? { relations: own } : {}) };
  });
}

function itemOf(object: SpecObject, section: string): { id?: string; section: string; text: string; identifier: string } {
  const split = object.id ? { id: object.id, text: object.text } : splitId(object.text);
  return { ...split, section, identifier: object.identifier };
}

/** Relations by the object they start from; their kind is told by the name of their type. */
function relationsOf(root: Element, ids: ReadonlyMap<string, string>): ReadonlyMap<string, Relation[]> {
  const types = new Map(all(root, /^SPEC-RELATION-TYPE$/).map((type) => [attribute(type, 'IDENTIFIER') ?? '', attribute(type, 'LONG-NAME') ?? '']));
  const found = new Map<string, Relation[]>();
  for (const relation of all(root, /^SPEC-RELATION$/)) {
    const reference = (part: string): string => children(relation, part)[0]?.textContent?.trim() ?? '';
    const [from, to] = [reference('SOURCE'), ids.get(reference('TARGET'))];
    if (to) found.set(from, [...(found.get(from) ?? []), { kind: kindOf(types.get(reference('TYPE')) ?? ''), to }]);
  }
  return found;
}

function kindOf(name: string): RelationKind {
  if (/parent|child|contain|part/i.test(name)) return 'parent';
  if (/conflict|contradict/i.test(name)) return 'conflicts';
  return /refine|detail/i.test(name) ? 'refines' : 'derives';
}

/** Elements inside one part of an element. */
function children(element: Element, part: string): Element[] {
  const found = elementsOf(element).find((one) => tag(one) === part);
  return found ? elementsOf(found) : [];
}

/** All elements below whose name fits, in document order. */
function all(element: Element, name: RegExp): Element[] {
  return elementsOf(element).flatMap((child) => [...(name.test(tag(child)) ? [child] : []), ...all(child, name)]);
}

/** The text of an attribute value: of THE-VALUE as an attribute, or of the XHTML inside; paragraphs become lines. */
function valueText(value: Element): string {
  const plain = attribute(value, 'THE-VALUE');
  if (plain !== undefined) return plain;
  const inside = elementsOf(value).find((one) => tag(one) === 'THE-VALUE');
  return inside
    ? xhtmlText(inside)
        .replace(/[ \t]+/g, ' ')
        .replace(/\s*\n\s*/g, '\n')
        .trim()
    : '';
}

function xhtmlText(element: Element): string {
  let text = '';
  for (let child = element.firstChild; child; child = child.nextSibling) {
    if (child.nodeType === 3 || child.nodeType === 4) text += (child.nodeValue ?? '').replace(/\s+/g, ' ');
    else if (child.nodeType === 1) {
      const inner = xhtmlText(child as Element);
      text += /^(?:p|div|li|br|tr|h\d)$/i.test(tag(child as Element)) ? `\n${inner}\n` : inner;
    }
  }
  return text;
}
