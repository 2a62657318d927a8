import { readFileSync } from 'node:fs';
import { DOMParser, type Element } from '@xmldom/xmldom';
import { describe, expect, it } from 'vitest';
import { Faults } from '@/core/fault';
import { readReqif, writeReqif } from '@/core/requirements';

// Source: OMG ReqIF 1.2 (formal/2016-07-01): structure of documents; names of attributes after the implementation guide of its users, from memory.
const original = readFileSync('tests/formats/nested.reqif', 'utf8');
const read = (text: string, faults = new Faults()) => readReqif('a.reqif', text, [], faults);

/** Elements, attributes in order of their names, text and comments: what Canonical XML (W3C) keeps. */
function canonical(text: string): string {
  const print = (element: Element): string => {
    const attributes = Array.from(element.attributes, (one) => `${one.name}="${one.value}"`).sort();
    let inner = '';
    for (let child = element.firstChild; child; child = child.nextSibling)
      inner += child.nodeType === 1 ? print(child as Element) : `${child.nodeType}:${child.nodeValue ?? ''}`;
    return `<${element.tagName} ${attributes.join(' ')}>${inner}</${element.tagName}>`;
  };
  return print(new DOMParser().parseFromString(text, 'application/xml').documentElement as Element);
}

describe('ReqIF', () => {
  it('is read in the order of its specifications, with sections, ids, relations and the words of its XHTML', () =>
    expect(read(original)).toEqual([
      {
        id: 'MX-2',
        section: '1 Motor',
        text: 'When the lid opens, the motor shall stop within 0.5 s.',
        relations: [{ kind: 'refines', to: 'MX-1' }],
      },
      { id: 'MX-1', section: '1.1 Speed & torque', text: 'The speed shall never exceed 90 rpm.\nMeasured at the shaft.' },
      { id: 'MX-001', section: 'Lid', text: 'The lid shall be lockable.' },
    ]));

  it('comes back equal, unknown attributes and extensions with it', () => {
    const { text, missing } = writeReqif(read(original), original);
    expect(missing).toEqual([]);
    expect(canonical(text)).toBe(canonical(original));
  });

  it('changes a text and nothing else', () => {
    const items = read(original).map((one) => (one.id === 'MX-2' ? { ...one, text: 'When the lid opens, the motor shall stop within 0.4 s.' } : one));
    const { text } = writeReqif([...items, { id: 'MX-9', section: 'Lid', text: 'New.' }], original);
    expect(read(text).find((one) => one.id === 'MX-2')?.text).toContain('0.4 s');
    expect(canonical(text.replace('0.4 s.</xhtml:div>', '0.5 s.</xhtml:p>').replace(/<xhtml:div([^>]*)>When/, '<xhtml:p$1>When'))).toBe(
      canonical(original),
    );
    expect(writeReqif([...items, { id: 'MX-9', section: 'Lid', text: 'New.' }], original).missing).toEqual(['MX-9']);
  });

  it('is written anew from requirements that came from elsewhere, and read back as they were', () => {
    const items = [
      { id: 'A-1', section: 'One & only', text: 'The level <b> shall be "low" & stay so.' },
      { id: 'A-2', section: 'Two', text: 'The pump shall run.', relations: [{ kind: 'derives' as const, to: 'A-1' }] },
    ];
    expect(read(writeReqif(items).text)).toEqual(items);
  });

  it.each([
    ['a document that grows by its entities', '<?xml version="1.0"?><!DOCTYPE l [<!ENTITY a "ha"><!ENTITY b "&a;&a;&a;&a;">]><REQ-IF>&b;</REQ-IF>'],
    ['a document that reaches outside', '<?xml version="1.0"?><!DOCTYPE x [<!ENTITY f SYSTEM "file:///etc/passwd">]><REQ-IF>&f;</REQ-IF>'],
    ['another kind of document', '<?xml version="1.0"?><html/>'],
    ['a document that is cut off', original.slice(0, 2000)],
  ])('refuses %s and says why', (_, text) => {
    const faults = new Faults();
    expect(read(text, faults)).toEqual([]);
    expect(faults.all()).toHaveLength(1);
    expect(faults.all()[0]?.message).toMatch(/document type|not a ReqIF|not well-formed/);
  });
});
