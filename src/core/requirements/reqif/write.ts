import { type Element, XMLSerializer } from '@xmldom/xmldom';
import { Faults } from '@/core/fault';
import { possibleInXml, xmlText } from '@/core/formats';
import { nameKey } from '@/core/language';
import { elementsOf, tag } from '@/core/xml';
import type { Relation, RequirementItem } from '../requirementItem';
import { openReqif, readReqif } from './read';

const space = 'http://www.omg.org/spec/ReqIF/20110401/reqif.xsd';
const xhtml = 'http://www.w3.org/1999/xhtml';

/**
 * Requirements as ReqIF 1.2. With the document they once came from, only the texts that have changed are written into it, and everything else, known or unknown, stays as it is;
 * requirements it does not have are left out and named.
 */
export function writeReqif(items: readonly RequirementItem[], original?: string): { readonly text: string; readonly missing: readonly string[] } {
  if (original === undefined) return { text: newDocument(items), missing: [] };
  const faults = new Faults();
  const document = openReqif('original', original, faults);
  if (!document) return { text: newDocument(items), missing: [] };
  const before = readReqif('original', original, [], new Faults());
  const ids = before.map((one) => nameKey(one.id));
  const withText = document.objects.filter((one) => one.text !== '');
  const byText = new Map(withText.map((one) => [one.text, one]));
  for (const item of items) {
    const old = before[ids.indexOf(nameKey(item.id))];
    const object = old && (withText.find((one) => one.id !== undefined && nameKey(one.id) === nameKey(item.id)) ?? byText.get(old.text));
    if (old && object?.value && old.text !== item.text) setText(object.value, item.text);
  }
  return {
    text: `${declarationOf(original)}${new XMLSerializer().serializeToString(document.root)}`,
    missing: items.filter((item) => !ids.includes(nameKey(item.id))).map((item) => item.id),
  };
}

function declarationOf(original: string): string {
  return /^\s*<\?xml[^>]*\?>\s*/.exec(original)?.[0] ?? '';
}

/** Puts a new text into an attribute value: plain, or as one XHTML division. */
function setText(value: Element, text: string): void {
  if (value.hasAttribute('THE-VALUE')) {
    value.setAttribute('THE-VALUE', possibleInXml(text));
    return;
  }
  const inside = elementsOf(value).find((one) => tag(one) === 'THE-VALUE');
  const owner = value.ownerDocument;
  if (!inside || !owner) return;
  const prefix = elementsOf(inside)[0]?.prefix;
  while (inside.firstChild) inside.removeChild(inside.firstChild);
  const division = owner.createElementNS(xhtml, prefix ? `${prefix}:div` : 'div');
  division.appendChild(owner.createTextNode(possibleInXml(text)));
  inside.appendChild(division);
}

function newDocument(items: readonly RequirementItem[]): string {
  const sections = [...new Set(items.map((item) => item.section))];
  const at = new Map(items.map((item, index) => [nameKey(item.id), `object-${index + 1}`]));
  const value = (kind: 'text' | 'id' | 'chapter', text: string): string =>
    kind === 'text'
      ? `<ATTRIBUTE-VALUE-XHTML><DEFINITION><ATTRIBUTE-DEFINITION-XHTML-REF>attribute-text</ATTRIBUTE-DEFINITION-XHTML-REF></DEFINITION><THE-VALUE><xhtml:div>${xmlText(text)}</xhtml:div></THE-VALUE></ATTRIBUTE-VALUE-XHTML>`
      : `<ATTRIBUTE-VALUE-STRING THE-VALUE="${xmlText(text)}"><DEFINITION><ATTRIBUTE-DEFINITION-STRING-REF>attribute-${kind}</ATTRIBUTE-DEFINITION-STRING-REF></DEFINITION></ATTRIBUTE-VALUE-STRING>`;
  const object = (identifier: string, values: string): string =>
    `<SPEC-OBJECT IDENTIFIER="${identifier}" LAST-CHANGE="1970-01-01T00:00:00Z"><VALUES>${values}</VALUES><TYPE><SPEC-OBJECT-TYPE-REF>requirement</SPEC-OBJECT-TYPE-REF></TYPE></SPEC-OBJECT>`;
  const hierarchy = (identifier: string, inner: string): string =>
    `<SPEC-HIERARCHY IDENTIFIER="place-of-${identifier}" LAST-CHANGE="1970-01-01T00:00:00Z"><OBJECT><SPEC-OBJECT-REF>${identifier}</SPEC-OBJECT-REF></OBJECT>${inner === '' ? '' : `<CHILDREN>${inner}</CHILDREN>`}</SPEC-HIERARCHY>`;
  const identifierOf = (item: RequirementItem): string => at.get(nameKey(item.id)) ?? '';
  const relations = items.flatMap((item) => (item.relations ?? []).flatMap((one) => relationOf(item, one, at)));
  const kinds = [...new Set(items.flatMap((item) => (item.relations ?? []).map((one) => one.kind)))];
  const definition = (kind: 'STRING' | 'XHTML', name: string, longName: string): string =>
    `<ATTRIBUTE-DEFINITION-${kind} IDENTIFIER="attribute-${name}" LONG-NAME="${longName}" LAST-CHANGE="1970-01-01T00:00:00Z"><TYPE><DATATYPE-DEFINITION-${kind}-REF>type-${kind.toLowerCase()}</DATATYPE-DEFINITION-${kind}-REF></TYPE></ATTRIBUTE-DEFINITION-${kind}>`;
  return `<?xml version="1.0" encoding="UTF-8"?>
<REQ-IF xmlns="${space}" xmlns:xhtml="${xhtml}">
<THE-HEADER><REQ-IF-HEADER IDENTIFIER="header"><CREATION-TIME>1970-01-01T00:00:00Z</CREATION-TIME><REQ-IF-TOOL-ID>Ovrand</REQ-IF-TOOL-ID><REQ-IF-VERSION>1.0</REQ-IF-VERSION><SOURCE-TOOL-ID>Ovrand</SOURCE-TOOL-ID><TITLE>Requirements</TITLE></REQ-IF-HEADER></THE-HEADER>
<CORE-CONTENT><REQ-IF-CONTENT>
<DATATYPES><DATATYPE-DEFINITION-STRING IDENTIFIER="type-string" MAX-LENGTH="1000" LAST-CHANGE="1970-01-01T00:00:00Z"/><DATATYPE-DEFINITION-XHTML IDENTIFIER="type-xhtml" LAST-CHANGE="1970-01-01T00:00:00Z"/></DATATYPES>
<SPEC-TYPES><SPEC-OBJECT-TYPE IDENTIFIER="requirement" LONG-NAME="Requirement" LAST-CHANGE="1970-01-01T00:00:00Z"><SPEC-ATTRIBUTES>${definition('STRING', 'id', 'ReqIF.ForeignID')}${definition('STRING', 'chapter', 'ReqIF.ChapterName')}${definition('XHTML', 'text', 'ReqIF.Text')}</SPEC-ATTRIBUTES></SPEC-OBJECT-TYPE><SPECIFICATION-TYPE IDENTIFIER="document" LONG-NAME="Document" LAST-CHANGE="1970-01-01T00:00:00Z"/>${kinds.map((kind) => `<SPEC-RELATION-TYPE IDENTIFIER="relation-${kind}" LONG-NAME="${kind}" LAST-CHANGE="1970-01-01T00:00:00Z"/>`).join('')}</SPEC-TYPES>
<SPEC-OBJECTS>
${[
  ...sections.map((section, index) => object(`section-${index + 1}`, value('chapter', section))),
  ...items.map((item) => object(identifierOf(item), value('id', item.id) + value('text', item.text))),
].join('\n')}
</SPEC-OBJECTS>
<SPEC-RELATIONS>${relations.join('')}</SPEC-RELATIONS>
<SPECIFICATIONS><SPECIFICATION IDENTIFIER="specification" LONG-NAME="Requirements" LAST-CHANGE="1970-01-01T00:00:00Z"><TYPE><SPECIFICATION-TYPE-REF>document</SPECIFICATION-TYPE-REF></TYPE><CHILDREN>
${sections.map((section, index) => hierarchy(`section-${index + 1}`, items.flatMap((item) => (item.section === section ? [hierarchy(identifierOf(item), '')] : [])).join(''))).join('\n')}
</CHILDREN></SPECIFICATION></SPECIFICATIONS>
</REQ-IF-CONTENT></CORE-CONTENT>
</REQ-IF>
`;
}

function relationOf(item: RequirementItem, { kind, to }: Relation, at: ReadonlyMap<string, string>): string[] {
  const [source, target] = [at.get(nameKey(item.id)), at.get(nameKey(to))];
  if (!source || !target) return [];
  return [
    `<SPEC-RELATION IDENTIFIER="${source}-${kind}-${target}" LAST-CHANGE="1970-01-01T00:00:00Z"><TYPE><SPEC-RELATION-TYPE-REF>relation-${kind}</SPEC-RELATION-TYPE-REF></TYPE><SOURCE><SPEC-OBJECT-REF>${source}</SPEC-OBJECT-REF></SOURCE><TARGET><SPEC-OBJECT-REF>${target}</SPEC-OBJECT-REF></TARGET></SPEC-RELATION>`,
  ];
}
