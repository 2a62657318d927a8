const nanosecondsPer: Readonly<Record<string, number>> = {
  ns: 1,
  us: 1e3,
  ms: 1e6,
  s: 1e9,
  min: 60e9,
  m: 60e9,
  h: 3600e9,
  d: 86_400e9,
};

/**
 * Reads a duration written as `80 ms`, `2.5 s`, `6 min`, or as a TIME literal `T#1m30s`.
 * @returns whole nanoseconds, or a sentence that says what is wrong.
 */
export function readDuration(text: string): number | string {
  const literal = /^\s*(?:T|TIME)#(-?)(.+)$/i.exec(text);
  if (literal) {
    const nanoseconds = readTimeBody(literal[2] ?? '');
    return typeof nanoseconds === 'number' && literal[1] === '-' ? -nanoseconds : nanoseconds;
  }
  const plain = /^\s*(-?\d+(?:\.\d+)?(?:[eE][+-]?\d+)?)\s*(ns|us|ms|s|min|h|d)\s*$/.exec(text);
  if (!plain) return `"${text}" is not a duration`;
  return wholeNanoseconds(plain[1] ?? '', plain[2] ?? 's');
}

/** The part after `T#`: units from days down to nanoseconds, as in `1h30m` or `2.5s`. */
export function readTimeBody(body: string): number | string {
  const parts = body.replace(/_/g, '').toLowerCase();
  if (!/^(\d+(\.\d+)?(ms|us|ns|d|h|m|s))+$/.test(parts)) return `"T#${body}" is not a TIME literal`;
  let total = 0;
  for (const match of parts.matchAll(/(\d+(?:\.\d+)?)(ms|us|ns|d|h|m|s)/g)) {
    const part = wholeNanoseconds(match[1] ?? '', match[2] ?? 's');
    if (typeof part === 'string') return part;
    total += part;
  }
  return total;
}

/** Decimal digits are shifted as text, so that 0.1 s is exactly 100,000,000 ns. */
function wholeNanoseconds(digits: string, unit: string): number | string {
  const scale = nanosecondsPer[unit] ?? 1e9;
  const value = Number(digits) * scale;
  const rounded = Math.round(value);
  if (!Number.isSafeInteger(rounded)) return `${digits} ${unit} is too long: at most about 104 days`;
  if (Math.abs(value - rounded) > 1e-6 * Math.max(1, Math.abs(value) * 1e-9)) {
    return `${digits} ${unit} is not a whole number of nanoseconds`;
  }
  return rounded;
}

/** Writes nanoseconds as a person would: `80 ms`, `2.5 s`, `6 min`. */
export function printDuration(nanoseconds: number): string {
  const size = Math.abs(nanoseconds);
  const [unit, scale] =
    size === 0 || (size >= 1e9 && (size < 60e9 || size % 60e9 !== 0))
      ? ['s', 1e9]
      : size >= 60e9
        ? ['min', 60e9]
        : size >= 1e6
          ? ['ms', 1e6]
          : size >= 1e3
            ? ['us', 1e3]
            : ['ns', 1];
  return `${nanoseconds / scale} ${unit}`;
}
