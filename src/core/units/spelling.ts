/** Everyday writings of whole units that UCUM spells otherwise. */
const everyday: ReadonlyMap<string, string> = new Map([
  ['', '1'],
  ['°C', 'Cel'],
  ['℃', 'Cel'],
  ['°F', '[degF]'],
  ['°', 'deg'],
  ['Ω', 'Ohm'],
  ['ppm', '[ppm]'],
  ['rpm', '/min'],
  ['psi', '[psi]'],
  ['Nm', 'N.m'],
  ['kNm', 'kN.m'],
  ['Wh', 'W.h'],
  ['kWh', 'kW.h'],
  ['MWh', 'MW.h'],
  ['Ah', 'A.h'],
  ['mAh', 'mA.h'],
  ['VA', 'V.A'],
  ['kVA', 'kV.A'],
]);

/** A unit for files and programs: its UCUM code; nothing where there is none. */
export function unitCode(unit: string): string {
  return unit === '' ? '' : ucumOf(unit);
}

const superscripts = '⁰¹²³⁴⁵⁶⁷⁸⁹⁻';
const plain = '0123456789-';

/** A unit in the spelling of UCUM, from there or from how people write it: `m³/s`, `°C`, `kΩ`, `N·m`. */
export function ucumOf(unit: string): string {
  const known = everyday.get(unit);
  if (known !== undefined) return known;
  const ascii = [...unit].map((one) => plain[superscripts.indexOf(one)] ?? one).join('');
  const parts = ascii
    .replace(/[·⋅]/g, '.')
    .replace(/[µμ]/g, 'u')
    .replace(/Ω/g, 'Ohm')
    .split(/([./()])/);
  // A part by itself may have an everyday name: kWh/d, Ω·m, 1/°C.
  return parts.map((part) => (part === '' ? part : (everyday.get(part) ?? part))).join('');
}

/** What stands for a code of UCUM where people read it. */
const readable: ReadonlyMap<string, string> = new Map([
  ['Cel', '°C'],
  ['[degF]', '°F'],
  ['deg', '°'],
  ['[ppm]', 'ppm'],
  ['[psi]', 'psi'],
  ['1', ''],
]);

/** A unit as people write it, from its UCUM code or any other spelling: `m³/s` for `m3/s`, `°C` for `Cel`, `µm` for `um`. */
export function unitWords(unit: string): string {
  const whole = readable.get(unit);
  if (whole !== undefined) return whole;
  return unit
    .split(/([./·()])/)
    .map((part) => (part === '.' ? '·' : (readable.get(part) ?? partWords(part))))
    .join('');
}

/** An exponent is raised, `u` before a unit is µ, `Ohm` is Ω. */
function partWords(part: string): string {
  if (/[{}[\]]/.test(part)) return part;
  return part
    .replace(/^u(?=[A-Za-z])/, 'µ')
    .replace(/^([kMGmµ]?)Ohm/, '$1Ω')
    .replace(/(?<=[A-Za-zµΩ])[-+]?\d+$/, (exponent) => [...exponent.replace('+', '')].map((one) => superscripts[plain.indexOf(one)]).join(''));
}

export function isCelsius(unit: string): boolean {
  return ucumOf(unit) === 'Cel';
}

/** The unit of a distance between two values: temperatures in °C differ by kelvins. */
export function unitOfDifference(unit: string): string {
  return isCelsius(unit) ? 'K' : unit;
}

/** The unit of a rate of change: K/s for temperatures in °C, m/s² for speeds. */
export function unitOfRate(unit: string): string {
  const of = unitOfDifference(unit) || '1';
  const power = /\/s([²³]|\d)?$/.exec(of);
  if (!power) return `${of}/s`;
  const exponent = { '': 2, '²': 3, '2': 3 }[power[1] ?? ''];
  return exponent === undefined ? `${of}/s` : unitWords(of.replace(/\/s[²\d]?$/, `/s${exponent}`));
}

/** What somebody has probably meant by a unit that is none; each is told by itself. */
const mistaken: ReadonlyMap<string, string> = new Map([
  ['sec', 's'],
  ['secs', 's'],
  ['second', 's'],
  ['seconds', 's'],
  ['minute', 'min'],
  ['minutes', 'min'],
  ['mins', 'min'],
  ['hr', 'h'],
  ['hrs', 'h'],
  ['hour', 'h'],
  ['hours', 'h'],
  ['msec', 'ms'],
  ['degC', '°C'],
  ['deg_C', '°C'],
  ['Celsius', '°C'],
  ['celsius', '°C'],
  ['°K', 'K'],
  ['kelvin', 'K'],
  ['KPa', 'kPa'],
  ['Kpa', 'kPa'],
  ['mbar', 'mbar'],
  ['Kg', 'kg'],
  ['KW', 'kW'],
  ['Khz', 'kHz'],
  ['KHz', 'kHz'],
  ['hz', 'Hz'],
  ['litre', 'l'],
  ['liter', 'l'],
  ['litres', 'l'],
  ['liters', 'l'],
  ['cbm', 'm³'],
  ['percent', '%'],
  ['amp', 'A'],
  ['amps', 'A'],
  ['volt', 'V'],
  ['volts', 'V'],
  ['ohm', 'Ω'],
  ['ohms', 'Ω'],
]);

/** How to write a unit that is none. */
export function unitAdvice(unit: string): string {
  const meant = mistaken.get(unit);
  if (meant !== undefined) return `Write ${meant}.`;
  if (/\^/.test(unit)) return `Write ${unitWords(unit.replace(/\^/g, ''))}: an exponent stands behind its unit without a sign.`;
  if (/\s/.test(unit)) return 'Write it without blanks, such as m/s or N·m.';
  if (/°C|Cel/.test(unit)) return 'Rates and products of temperatures are written with K: K/s, kJ/K.';
  return 'Write it as people do or as in UCUM: m, mm/s, m³/s, kPa, °C, %, °.';
}
