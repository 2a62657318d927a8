import { describe, expect, it } from 'vitest';
import { parseSentence } from '@/core/criteria';
import { Reader, type Term } from '@/core/reading';

// Source: Mavin, Wilkinson, Harwood, Novak, "Easy Approach to Requirements Syntax (EARS)" (RE 2009): five kinds and their combination, told by their keywords. The sentences are our own.
const terms: Term[] = [
  { name: 'pump', kind: 'truth', unit: '', about: 'pump runs' },
  { name: 'valve_open', kind: 'truth', unit: '', about: 'valve is open' },
  { name: 'button', kind: 'truth', unit: '', about: 'button is pressed' },
  { name: 'leak', kind: 'truth', unit: '', about: 'leak is detected' },
  { name: 'heater_fitted', kind: 'truth', unit: '', about: 'heater is fitted' },
  { name: 'heater', kind: 'truth', unit: '', about: 'heater is on' },
  { name: 'level', kind: 'quantity', unit: 'm', about: 'level of the tank' },
];
const reader = new Reader(terms, { synonyms: {}, vague: {} });

describe('the kinds of EARS are told apart', () => {
  it.each([
    ['ubiquitous', 'The level shall not exceed 3 m.', 'always', undefined],
    ['event-driven (when)', 'When the button is pressed, the pump shall run within 2 s.', 'when', 'event'],
    ['state-driven (while)', 'While the valve is open, the pump shall run.', 'while', 'condition'],
    ['unwanted behaviour (if, then)', 'If a leak is detected, then the valve shall be closed within 1 s.', 'when', 'event or condition'],
    ['optional feature (where)', 'Where a heater is fitted, the heater shall be on.', 'while', 'feature'],
    ['complex (while, when)', 'While the valve is open, when the button is pressed, the pump shall run within 2 s.', 'when', 'condition'],
  ])('%s', (_, prose, kind, mark) => {
    const [first] = reader.read(prose).proposals;
    const read = first && parseSentence(first.sentence).sentence;
    expect(read?.k).toBe(kind);
    if (mark) expect(first?.words.map((word) => word.as)).toContain(mark);
  });

  it('a complex one keeps its state beside its event', () => {
    const [first] = reader.read('While the valve is open, when the button is pressed, the pump shall run within 2 s.').proposals;
    expect(first?.sentence).toBe('when button rises while valve_open, within 2 s pump');
  });
});
