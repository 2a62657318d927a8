import { DOMParser } from '@xmldom/xmldom';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { RequirementResult } from '@/core/evidence';
import { Faults } from '@/core/fault';
import { writeJUnit } from '@/core/formats';
import { type RequirementItem, readReqif, writeReqif } from '@/core/requirements';

const awkward = fc
  .string({
    unit: fc.constantFrom('a', '<', '&', '"', "'", ']]>', '\0', '\u0001', '\uFFFE', '\uD800', '😀', '\n', '\t', '−'),
    minLength: 1,
    maxLength: 12,
  })
  .filter((text) => text.trim() !== '');
/** As XML can hold it. */
const bad = new Set(['\0', '\u0001', '\uFFFE', '\uD800']);
const held = (text: string): string => [...text].map((letter) => (bad.has(letter) ? '\uFFFD' : letter)).join('');
function parsed(xml: string) {
  return new DOMParser({
    onError: (level, message) => {
      // That a � stands there is told as a warning.
      if (level !== 'warning') throw new Error(`${level}: ${message}`);
    },
  }).parseFromString(xml, 'text/xml');
}

describe('texts in XML', () => {
  it('whatever they hold, JUnit is well-formed and says them', () => {
    fc.assert(
      fc.property(awkward, awkward, (section, text) => {
        const result: RequirementResult = { id: 'R-1', state: 'lacks evidence', reason: 'not run', criteria: [] } as never;
        const root = parsed(writeJUnit('P', [{ section, text, result }])).documentElement;
        expect(root?.getElementsByTagName('testcase')[0]?.getAttribute('name')).toBe(`R-1 ${held(text)}`);
        expect(root?.getElementsByTagName('testsuite')[0]?.getAttribute('name')).toBe(held(section));
      }),
    );
  });

  it('ReqIF is well-formed, and read again it says the same, also where it is written over a document', () => {
    const item = (text: string): RequirementItem => ({ id: 'R-1', section: 'S', text });
    fc.assert(
      fc.property(awkward, awkward, (text, later) => {
        const first = writeReqif([item(text)]).text;
        parsed(first);
        const second = writeReqif([item(later)], first).text;
        parsed(second);
        const read = readReqif('a.reqif', second, [], new Faults());
        expect(read[0]?.text.replace(/\s+/g, ' ').trim()).toBe(held(later).replace(/\s+/g, ' ').trim());
      }),
    );
  });
});
