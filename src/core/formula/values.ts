import type { Faults, Place } from '@/core/fault';
import { nearestName, readDuration } from '@/core/language';
import { type Enumeration, integerRange, type ValueType } from '@/core/plan';
import type { RawPort, Scalar } from '@/core/shapes';
import { unitWords } from '@/core/units';
import { enumerated, numberOfValue, typeWords } from './enumerations';

/** Limits and kind of a value, as a face declares them. */
export interface Declared {
  readonly name: string;
  readonly type: ValueType;
  readonly unit: string;
  readonly min?: number;
  readonly max?: number;
  readonly enumeration?: Enumeration;
}

export function declare(name: string, port: RawPort, fallback: ValueType = 'LREAL'): Declared {
  return {
    name,
    type: port.type ?? fallback,
    unit: unitWords(port.unit ?? ''),
    ...(port.min === undefined ? {} : { min: port.min }),
    ...(port.max === undefined ? {} : { max: port.max }),
    ...enumerated(port),
  };
}

/**
 * Turns an authored value (number, TRUE/FALSE, duration, a value of an enumeration by its name) into the number a slot holds.
 * Kind and limits are checked; a value outside them is a fault at `place`.
 */
export function readValue(value: Scalar, declared: Declared, place: Place, faults: Faults): number | undefined {
  const { type, enumeration } = declared;
  const number = enumeration ? valueNumber(value, enumeration) : toNumber(value, type);
  if (typeof number === 'string') {
    const [kind, fix] = enumeration ? [typeWords(enumeration), wantedValue(value, enumeration)] : [type, wanted(type)];
    faults.add('type', place, `${declared.name} is ${kind}; ${number}.`, fix);
    return undefined;
  }
  const outside = outsideLimits(number, declared);
  if (outside) {
    faults.add(
      'outside-limits',
      place,
      `${declared.name} = ${outside}.`,
      'Choose a value inside, or change the limits in the face of the component.',
    );
    return undefined;
  }
  return number;
}

/** An authored value for what a slot holds, the way it is written in documents: a value of an enumeration by its name, a BOOL as a truth. */
export function authoredValue(number: number, { type, enumeration }: { readonly type: ValueType; readonly enumeration?: Enumeration }): Scalar {
  if (enumeration) return enumeration.values[number] ?? number;
  if (type === 'TIME') return `${number / 1e9} s`;
  return type === 'BOOL' ? number !== 0 : number;
}

function valueNumber(value: Scalar, enumeration: Enumeration): number | string {
  const found = typeof value === 'string' ? numberOfValue(value, enumeration) : value;
  return typeof found === 'number' && enumeration.values[found] !== undefined ? found : `${JSON.stringify(value)} is none of its values`;
}

function wantedValue(value: Scalar, { values }: Enumeration): string {
  const near = nearestName(String(value), values);
  return near ? `Did you mean ${near}?` : `Write one of ${values.join(', ')}.`;
}

/** A value and the limit it does not keep to, in words; nothing for one that keeps to them. */
function outsideLimits(value: number, { min, max, unit }: Declared): string | undefined {
  const isBelow = min !== undefined && value < min;
  if (!isBelow && !(max !== undefined && value > max)) return undefined;
  const blank = unit ? ` ${unit}` : '';
  if (min !== undefined && max !== undefined) return `${value}${blank} lies outside its limits, ${min} … ${max}${blank}`;
  return isBelow ? `${value}${blank} is below its minimum, ${min}${blank}` : `${value}${blank} is above its maximum, ${max}${blank}`;
}

function toNumber(value: Scalar, type: ValueType): number | string {
  if (type === 'BOOL') return typeof value === 'boolean' ? Number(value) : `${JSON.stringify(value)} is neither TRUE nor FALSE`;
  if (type === 'TIME') return typeof value === 'string' ? readDuration(value) : `${String(value)} has no unit of time`;
  if (typeof value !== 'number') return `${JSON.stringify(value)} is not a number`;
  const range = integerRange[type];
  if (range && !Number.isInteger(value)) return `${value} is not a whole number`;
  if (range && (value < range[0] || value > range[1])) return `${value} does not fit`;
  return type === 'REAL' ? Math.fround(value) : value;
}

function wanted(type: ValueType): string {
  if (type === 'BOOL') return 'Write TRUE or FALSE.';
  return type === 'TIME' ? 'Write a duration such as 2.5 s.' : 'Write a number in the unit of the face.';
}

/** Reads an authored time; a bare number is refused, because it hides its unit. */
export function readTime(value: string | number, place: Place, faults: Faults, least = 0): number | undefined {
  const nanoseconds = typeof value === 'number' ? `${value} has no unit of time` : readDuration(value);
  if (typeof nanoseconds === 'string') {
    faults.add('time', place, `${nanoseconds}.`, 'Write a duration such as 80 ms, 2.5 s or 6 min.');
    return undefined;
  }
  if (nanoseconds < least) {
    faults.add('time', place, `${String(value)} is too short.`, least > 0 ? 'A time greater than zero is needed.' : 'Times are not negative.');
    return undefined;
  }
  return nanoseconds;
}
