import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { numberValues, Reader, separatorsOf, type Term } from '@/core/reading';

const terms: Term[] = [
  { name: 'heater', kind: 'truth', unit: '', about: 'heater is on' },
  { name: 'fan', kind: 'truth', unit: '', about: 'cooling fan is running' },
  { name: 'door_open', kind: 'truth', unit: '', about: 'door is open' },
  { name: 'temperature', kind: 'quantity', unit: 'Cel', about: 'temperature of the air' },
  { name: 'speed', kind: 'quantity', unit: '/min', about: 'speed of the fan' },
  { name: 'mass', kind: 'quantity', unit: 'kg', about: 'mass of the batch' },
  { name: 'drying_time', kind: 'quantity', unit: 's', about: 'longest time of drying', fixed: true },
  { name: 'oven.Drying', kind: 'state', unit: '', about: 'the oven dries' },
];
const reader = new Reader(terms, { synonyms: {}, vague: {} });
const sentences = (prose: string): string[] => reader.read(prose).proposals.map((one) => one.sentence);

describe('what proves nothing or says the contrary is not offered', () => {
  it.each([
    ['The heater shall not be on for more than 20 min.'],
    ['Drying shall not last longer than 1300 s.'],
    ['The drying time shall not exceed 1200 s.'],
    ['The fan shall be switched off 60 s after the heater is switched off.'],
    ['The fan shall be prevented from running while the door is open.'],
    ['While the fan is running, the fan shall be running.'],
    ['The heater shall be off at least 5 min before the door is open.'],
    ['The heater shall not be switched on more than 6 times in 1 h.'],
  ])('%s', (prose) => {
    for (const sentence of sentences(prose)) {
      // Whatever is offered holds every number of the text, and is neither `never` of the thing itself nor about a fixed value.
      for (const number of prose.match(/\d[\d,]*/g) ?? []) expect(numbersIn(sentence)).toContain(Number(number.replaceAll(',', '')));
      expect(sentence).not.toMatch(/^never (?:heater|oven\.Drying)$|drying_time/);
    }
  });

  it('the text is shown as not read, with the reason and with what was understood', () => {
    const { proposals, notRead } = reader.read('While the door is open, the fan shall be stopped by 3.');
    expect(proposals).toEqual([]);
    expect(notRead).toMatchObject([{ part: 1, because: '3 has no place in it' }]);
    expect(notRead[0]!.words.map((word) => word.as)).toContain('condition');
    expect(reader.read('The drying time shall not exceed 1200 s.').notRead).toMatchObject([
      { because: 'it speaks of drying_time alone, which no run changes' },
    ]);
    expect(reader.read('The fan shall run gently.').notRead).toMatchObject([{ because: '"gently" has no place in it' }]);
    expect(reader.read('When the door is open, the fan shall promptly run.').proposals).toEqual([]);
    expect(reader.read('While the heater is on, the heater shall be on.').notRead).toMatchObject([{ because: 'it is always met, whatever happens' }]);
    expect(reader.read('While the heater is on, the heater shall be off.').notRead).toMatchObject([{ because: 'it can never be met' }]);
  });

  it('what is in order is offered as before', () => {
    expect(sentences('The temperature shall not exceed 60 °C.')).toEqual(['always temperature <= 60 Cel']);
    expect(sentences('No temperature shall exceed 60 °C.')).toEqual(['always temperature <= 60 Cel']);
    expect(sentences('The heater shall never be on while the door is open.')).toEqual(['while door_open, NOT heater']);
    expect(sentences('The speed shall be at most 1470 rpm.')).toEqual(['always speed <= 1470 /min']);
  });
});

/** Numbers of a sentence; times in seconds count in minutes and hours as well. */
function numbersIn(sentence: string): number[] {
  return [...sentence.matchAll(/[\d.]+/g)].flatMap(([text]) => [Number(text), Number(text) / 60]);
}

describe('numbers', () => {
  it.each([
    ['1200', [1200]],
    ['1,200', [1200, 1.2]],
    ['1.200', [1.2, 1200]],
    ['0,250', [0.25]],
    ['0.250', [0.25]],
    ['2,5', [2.5]],
    ['12,5', [12.5]],
    ['1,2345', [1.2345]],
    ['1,234,567', [1234567]],
    ['1.234.567', [1234567]],
    ['1,234.5', [1234.5]],
    ['1.234,5', [1234.5]],
    ['12 000', [12000]],
    ['12\u00a0000', [12000]],
    ['12\u202f000,5', [12000.5]],
    ["12'000", [12000]],
    ['−1,200', [-1200, -1.2]],
    ['1e3', [1000]],
    ['1.5e-3', [0.0015]],
    ['2 × 10^4', [20000]],
    ['1,2,3', []],
  ])('%s', (text, values) => expect(numberValues(text).map((one) => one.value)).toEqual(values));

  it('are asked about where they can be taken in two ways, and not where another number of the text decides', () => {
    expect(sentences('The mass shall not exceed 1,200 kg.')).toEqual(['always mass <= 1200 kg', 'always mass <= 1.2 kg']);
    expect(reader.read('The mass shall not exceed 1,200 kg.').proposals.map((one) => [one.supposed, one.confidence])).toEqual([
      [['1,200 is 1200'], 0.5],
      [['1,200 is 1.2'], 0.5],
    ]);
    expect(sentences('While the temperature is above 2.5 °C, the mass shall not exceed 1,200 kg.')).toEqual([
      'while temperature > 2.5 Cel, mass <= 1200 kg',
    ]);
    expect(sentences('While the temperature is above 2,5 °C, the mass shall not exceed 1.200 kg.')).toEqual([
      'while temperature > 2.5 Cel, mass <= 1200 kg',
    ]);
    expect(sentences('The mass shall not exceed 12 000 kg.')).toEqual(['always mass <= 12000 kg']);
    expect(separatorsOf('1,200 and 1.200')).toHaveLength(2);
  });

  it('grouped in any common way they keep their factor of a thousand', () => {
    fc.assert(
      fc.property(fc.integer({ min: 10_000, max: 99_999_999 }), fc.constantFrom(',', '.', ' ', '\u00a0', "'"), (value, mark) => {
        const text = String(value).replace(/\B(?=(\d{3})+$)/g, mark);
        const found = sentences(`The mass shall not exceed ${text} kg.`);
        expect(found).toContain(`always mass <= ${value} kg`);
        if (found.length === 1) expect(numberValues(text)).toHaveLength(1);
      }),
    );
  });
});

const door: Term[] = [
  { name: 'door_open', kind: 'truth', unit: '', about: 'door is open' },
  { name: 'door_closed', kind: 'truth', unit: '', about: 'door is closed' },
  { name: 'door_locked', kind: 'truth', unit: '', about: 'door is locked' },
  { name: 'buzzer', kind: 'truth', unit: '', about: 'buzzer sounds' },
  { name: 'pump', kind: 'truth', unit: '', about: 'pump is running' },
  { name: 'speed', kind: 'quantity', unit: 'km/h', about: 'speed of the train' },
  { name: 'wind', kind: 'quantity', unit: 'm/s', about: 'speed of the wind' },
  { name: 'pressure', kind: 'quantity', unit: 'bar', about: 'pressure of the feed' },
  { name: 'leaf.Closing', kind: 'state', unit: '', about: '' },
  { name: 'leaf.Isolated', kind: 'state', unit: '', about: '' },
];
const ofDoor = new Reader(door, { synonyms: {}, vague: {} });
const readDoor = (prose: string): string[] => ofDoor.read(prose).proposals.map((one) => one.sentence);

describe('what is under way is not over', () => {
  it.each([
    ['The buzzer shall sound while the door is closing.', 'while leaf.Closing, buzzer'],
    ['The door shall enter Closing at most 3 times per minute.', 'count of enters leaf.Closing in any 1 min <= 3'],
    ['When the buzzer sounds, the door shall be in Closing within 2 s.', 'when buzzer rises, within 2 s leaf.Closing'],
    ['The buzzer shall sound while the door is closed.', 'while door_closed, buzzer'],
  ])('%s', (prose, wanted) => expect(readDoor(prose)[0]).toBe(wanted));

  it('where no state is called so, the word is told as not placed', () => {
    const without = new Reader(
      door.filter(({ name }) => name !== 'leaf.Closing'),
      { synonyms: {}, vague: {} },
    );
    const { proposals, unplaced } = without.read('The buzzer shall sound while the door is closing.');
    expect(proposals.every((one) => one.confidence < 0.95)).toBe(true);
    expect(unplaced.map((one) => one.text)).toContain('closing');
  });
});

describe('what a reading leaves out', () => {
  it.each([
    ['A fault of the pump shall be reported.', '"fault" has no place in it'],
    ['The pump shall be preceded.', '"preceded" has no place in it'],
    ['The door shall be closed and locked at speeds of the train greater than 8 km/h.', '"locked" has no place in it'],
    ['When the pressure of the feed has grown 70 bar, the buzzer shall sound within 5 s.', '"grown" has no place in it'],
    ['The speed of the train shall be at most 20 km/h above the speed of the wind.', '"above" has no place in it'],
    ['Against a wind of 18 m/s, the speed of the train shall be at most 20 km/h.', '18 m/s has no place in it'],
  ])('%s is not read', (prose, because) => {
    const { proposals, notRead } = ofDoor.read(prose);
    expect(proposals.map((one) => one.sentence)).toEqual([]);
    expect(notRead.map((one) => one.because)).toContain(because);
  });

  it.each([
    ['With a speed of the wind above 18 m/s, the speed of the train shall be at most 20 km/h.', 'while wind > 18 m/s, speed <= 20 km/h'],
    ['The buzzer shall sound within 5 s after the pressure of the feed has exceeded 70 bar.', 'when pressure > 70 bar rises, within 5 s buzzer'],
    ['Neither the pump nor the buzzer shall be on in Isolated.', 'while leaf.Isolated, NOT pump AND NOT buzzer'],
  ])('%s', (prose, wanted) => expect(readDoor(prose)).toEqual([wanted]));

  it.each([
    ['The pump shall start only if the pressure of the feed is below 3 bar.', 'when pump rises, pressure < 3 bar', 'while pump, pressure < 3 bar'],
    ['The buzzer shall be silent when the door is locked.', 'when door_locked rises, NOT buzzer', 'while door_locked, NOT buzzer'],
  ])('%s may mean the event and the state: both are told, neither for sure', (prose, event, state) => {
    const { proposals } = ofDoor.read(prose);
    expect(proposals.map((one) => one.sentence)).toEqual(expect.arrayContaining([event, state]));
    for (const { confidence } of proposals) expect(confidence).toBeLessThan(0.96);
  });
});
