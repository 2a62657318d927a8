import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { normalForm, parseSentence } from '@/core/criteria';

const events = [
  'pump rises',
  'pump falls',
  'NOT pump rises',
  'pump changes',
  'mode becomes Running',
  'count_of_parts becomes 3',
  'level crosses 3 m upward',
  'level crosses 3 m downward',
  'enters station.Running',
  'leaves station.Running',
  'level > 3 m rises',
  '(level in [1 m, 2 m]) rises',
  'level = 2 m ± 5 cm falls',
];

const event = fc.constantFrom(...events);
const window = fc.constantFrom('1 h', '15 min', '30 s', '10 min 2 s');
const sentence = fc.oneof(
  fc.tuple(event, window, fc.integer({ min: 0, max: 9 })).map(([one, d, most]) => `count of ${one} in any ${d} <= ${most}`),
  fc.tuple(event, window, fc.integer({ min: 1, max: 9 })).map(([one, d, least]) => `count of ${one} in any ${d} >= ${least}`),
  fc.tuple(event, fc.integer({ min: 0, max: 9 })).map(([one, most]) => `count of ${one} <= ${most}`),
  fc.tuple(event, event, window).map(([one, other, d]) => `time from ${one} to ${other} <= ${d}`),
  fc.tuple(event, event, window).map(([one, other, d]) => `between ${one} and ${other} at least ${d}`),
  fc.tuple(event, window).map(([one, d]) => `when ${one}, within ${d} lamp`),
  fc.tuple(event, event).map(([one, other]) => `sequence ${one} then ${other}`),
);
const scope = fc.constantFrom('', ' while armed', ' after 30 s', ' while armed after 30 s');

describe('every kind of event', () => {
  it('can stand wherever one is counted, awaited or measured from', () => {
    fc.assert(
      fc.property(sentence, (text) => {
        expect(parseSentence(text).faults, text).toEqual([]);
      }),
      { numRuns: 400 },
    );
  });

  it('keeps what it says where the sentence goes on', () => {
    fc.assert(
      fc.property(event, window, scope, (one, d, more) => {
        const text = `count of ${one} in any ${d} <= 4${more}`;
        const parsed = parseSentence(text);
        expect(parsed.faults, text).toEqual([]);
        const measure = (parsed.sentence as { measure?: { k: string; seconds?: number } }).measure;
        expect(measure).toMatchObject({ k: 'count', seconds: expect.any(Number) });
      }),
    );
  });

  it('is one and the same however its words are set', () => {
    const form = (text: string): string => normalForm(parseSentence(text).sentence as never);
    expect(form('count of enters station.Running in any 60 min <= 4')).toBe(form('count of enters station.Running in any 1 h <= 4'));
    expect(form('COUNT OF ENTERS station.Running IN ANY 1 h <= 4')).toBe(form('count of enters station.Running in any 1 h <= 4'));
    expect(form('count of enters station.Running in any 1 h <= 4')).not.toBe(form('count of leaves station.Running in any 1 h <= 4'));
  });

  it('a range still stands where one is meant', () => {
    expect(parseSentence('while station.Running, level in [1 m, 2 m]').faults).toEqual([]);
    expect(parseSentence('always level in 3 m').faults[0]?.message).toContain('"[" is missing');
  });
});
