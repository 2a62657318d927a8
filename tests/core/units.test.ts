import { describe, expect, it } from 'vitest';
import { readDuration } from '@/core/language';
import { findUnit, sameUnit, ucumOf, unitOfRate, unitWords } from '@/core/units';
import { judgeCsv } from '../outside/monitor/harness';

const codes = [
  'm',
  'mm/s',
  'm3/s',
  'm/s2',
  'kPa',
  'Cel',
  '%',
  'deg',
  'um',
  'kOhm',
  'N.m',
  'W/(m2.K)',
  'kg/m3',
  'J/(kg.K)',
  'l/min',
  '[ppm]',
  's-1',
  '/min',
  'uS/cm',
  'K/s',
  'A.h',
  '{rev}/min',
  'mm[Hg]',
  '1',
];

describe('units as people write them', () => {
  it.each(codes)('%s is the same unit as it is shown', (code) => {
    expect(findUnit(code)).toBeDefined();
    expect(sameUnit(code, unitWords(code)), unitWords(code)).toBe(true);
    // Shown once more it stays as it is.
    expect(unitWords(unitWords(code))).toBe(unitWords(code));
  });
  it.each([
    ['m³/s', 'm3/s'],
    ['m/s²', 'm/s2'],
    ['s⁻¹', 's-1'],
    ['°C', 'Cel'],
    ['kWh/d', 'kW.h/d'],
    ['N·m', 'N.m'],
    ['Nm', 'N.m'],
    ['µm', 'um'],
    ['Ω', 'Ohm'],
    ['kΩ', 'kOhm'],
  ])('%s is %s', (written, code) => expect(ucumOf(written)).toBe(code));
  it('rates are of the next power', () => {
    expect(['m', 'm/s', 'm/s²', '°C', '', 'mm/s'].map(unitOfRate)).toEqual(['m/s', 'm/s²', 'm/s³', 'K/s', '1/s', 'mm/s²']);
  });
});

describe('temperatures', () => {
  const csv = 'time[s],a[Cel],b[°C]\n0,20,24\n10,22,24\n';
  const said = (sentence: string): string => {
    const { verdict, obligations } = judgeCsv(csv, sentence);
    return `${verdict} ${obligations[0]?.margin?.value} ${obligations[0]?.margin?.unit}`;
  };
  it.each([
    ['always a <= 25 °C', 'pass 3 K'],
    ['always a <= 25 Cel', 'pass 3 K'],
    ['always a = 21 °C ± 1.5 K', 'pass 0.5 K'],
    ['always b - a <= 5 K', 'pass 1 K'],
    ['always b - a <= 5000 mK', 'pass 1 K'],
    ['always a + 3 K < b', 'fail -1 K'],
    ['always rate of a <= 24 K/min', 'pass 0.2 K/s'],
    ['peak of a <= 30 °C', 'pass 8 K'],
  ])('%s: %s', (sentence, wanted) => expect(said(sentence)).toBe(wanted));
});

describe('durations', () => {
  it.each([
    ['10 min 2 s', 602e9],
    ['1 h 30 min', 5400e9],
    ['1h30min', 5400e9],
    ['2 d 4 h 1 ms', 187_200_001e6],
    ['-1 min 5 s', -65e9],
    ['1.5 min 500 ms', 90.5e9],
    ['20 µs', 20_000],
  ])('%s', (text, nanoseconds) => expect(readDuration(text)).toBe(nanoseconds));
  it.each([
    ['90', '"90" has no unit of time behind 90'],
    ['2 s 10 min', '"2 s 10 min" does not go from its largest unit to its smallest'],
    ['10 min 2', '"10 min 2" has no unit of time behind 2'],
    ['2 sec', '"sec" in "2 sec" is no unit of time here: write s'],
    ['10 m', '"m" in "10 m" is no unit of time here: write min'],
    ['2,5 s', '"2,5 s" has a comma: write a decimal point, 2.5 s'],
    ['1:30', '"1:30" is written like a clock: write 1 min 30 s for 1:30'],
    ['3 weeks', '"weeks" in "3 weeks" is no unit of time: there are ns, us, ms, s, min, h and d'],
    ['soon', '"soon" is not a duration'],
    ['', '"" is not a duration'],
  ])('%s is refused with its own words', (text, problem) => expect(readDuration(text)).toBe(problem));
});
