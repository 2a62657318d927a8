/**
 * JSON for everything that leaves a process: exact for all that plain data can hold. JSON itself turns ±∞ and NaN into null and −0 into 0; here they become
 * `{"$number": "Infinity"}` and the like. What has none of them is the JSON it always was. An object that has a key `$number` or `$data` of its own is wrapped as `{"$data": …}`.
 */
export function encode(value: unknown, indent?: number): string {
  return JSON.stringify(isPlain(value) ? value : tagged(value), null, indent) ?? 'null';
}

/** Reads what `encode` has written. @throws SyntaxError for a text that is no JSON, or that names `__proto__` */
export function decode(text: string): unknown {
  const value: unknown = JSON.parse(text, (key, part: unknown) => {
    if (key === '__proto__') throw new SyntaxError('__proto__ is not a key');
    return part;
  });
  // What has no tag at all, which is nearly everything, is done.
  return text.includes('"$') ? restored(value) : value;
}

function restored(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value;
  if (Array.isArray(value)) return value.map(restored);
  if (!hasTag(value)) return inside(value);
  if ('$data' in value) return inside(value.$data as object);
  const number = numbers.get(String(value.$number));
  if (number === undefined) throw new SyntaxError(`${String(value.$number)} is not a number`);
  return number;
}

function inside(value: object): unknown {
  return Object.fromEntries(Object.entries(value).map(([key, part]) => [key, restored(part)]));
}

const numbers: ReadonlyMap<string, number> = new Map([
  ['Infinity', Number.POSITIVE_INFINITY],
  ['-Infinity', Number.NEGATIVE_INFINITY],
  ['NaN', Number.NaN],
  ['-0', -0],
]);

function isOdd(value: number): boolean {
  return !Number.isFinite(value) || Object.is(value, -0);
}

function hasTag(value: unknown): value is { readonly $number?: unknown; readonly $data?: unknown } {
  return typeof value === 'object' && value !== null && !Array.isArray(value) && ('$number' in value || '$data' in value);
}

/** JSON can say it as it is. */
function isPlain(value: unknown): boolean {
  if (typeof value === 'number') return !isOdd(value);
  if (typeof value !== 'object' || value === null) return true;
  if (ArrayBuffer.isView(value)) return false;
  if (Array.isArray(value)) return value.every(isPlain);
  return !hasTag(value) && Object.values(value).every(isPlain);
}

function tagged(value: unknown): unknown {
  if (typeof value === 'number') return isOdd(value) ? { $number: Object.is(value, -0) ? '-0' : String(value) } : value;
  if (typeof value !== 'object' || value === null) return value;
  if (value instanceof Float64Array) return Array.from(value, tagged);
  if (Array.isArray(value)) return value.map(tagged);
  const inside = Object.fromEntries(Object.entries(value).map(([key, one]) => [key, tagged(one)]));
  return hasTag(value) ? { $data: inside } : inside;
}
