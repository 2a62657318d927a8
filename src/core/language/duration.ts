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

/** What people write for a unit of time, and what is meant. */
const mistaken: Readonly<Record<string, string>> = {
  sec: 's',
  secs: 's',
  second: 's',
  seconds: 's',
  minute: 'min',
  minutes: 'min',
  mins: 'min',
  m: 'min',
  hr: 'h',
  hrs: 'h',
  hour: 'h',
  hours: 'h',
  msec: 'ms',
  day: 'd',
  days: 'd',
};

const number = String.raw`\d+(?:\.\d+)?(?:[eE][+-]?\d+)?`;
const part = new RegExp(`(${number})\\s*(ns|us|µs|μs|ms|s|min|h|d)(?![A-Za-z])`, 'y');

/**
 * Reads a duration written as `80 ms`, `2.5 s`, `6 min`, `10 min 2 s`, or as a TIME literal `T#1m30s`.
 * @returns whole nanoseconds, or a sentence that says what is wrong.
 */
export function readDuration(text: string): number | string {
  const literal = /^\s*(?:T|TIME)#(-?)(.+)$/i.exec(text);
  if (literal) {
    const nanoseconds = readTimeBody(literal[2] ?? '');
    return typeof nanoseconds === 'number' && literal[1] === '-' ? -nanoseconds : nanoseconds;
  }
  return readParts(text.trim(), text);
}

/** Numbers with their units, from the largest to the smallest; a minus stands for all of them. */
function readParts(trimmed: string, text: string): number | string {
  const isNegative = trimmed.startsWith('-');
  part.lastIndex = isNegative ? 1 : 0;
  let total = 0;
  let before = Number.POSITIVE_INFINITY;
  while (part.lastIndex < trimmed.length) {
    const from = part.lastIndex;
    const match = part.exec(trimmed);
    if (!match) return whyNone(trimmed.slice(from), text);
    const [, digits = '', written = ''] = match;
    const unit = written.replace(/^[µμ]/, 'u');
    const size = nanosecondsPer[unit] ?? 1e9;
    if (size >= before) return `"${text}" does not go from its largest unit to its smallest`;
    before = size;
    const own = wholeNanoseconds(digits, unit);
    if (typeof own === 'string') return own;
    total += own;
    const blanks = /\s*/y;
    blanks.lastIndex = part.lastIndex;
    part.lastIndex += blanks.exec(trimmed)?.[0].length ?? 0;
  }
  if (before === Number.POSITIVE_INFINITY) return `"${text}" is not a duration`;
  if (!Number.isSafeInteger(total)) return `${text} is too long: at most about 104 days`;
  return isNegative ? -total : total;
}

/** What is wrong with a text that is no duration, from where it cannot be read on. */
function whyNone(rest: string, text: string): string {
  if (new RegExp(`^${number}$`).test(rest)) return `"${text}" has no unit of time behind ${rest}`;
  if (/^\d+,\d+/.test(rest)) return `"${text}" has a comma: write a decimal point, ${rest.replace(',', '.')}`;
  if (/^\d+:\d+/.test(rest)) return `"${text}" is written like a clock: write 1 min 30 s for 1:30`;
  const word = new RegExp(`^${number}\\s*([A-Za-zµμ]+)`).exec(rest)?.[1];
  const meant = word === undefined ? undefined : Object.entries(mistaken).find(([one]) => one === word.toLowerCase())?.[1];
  if (meant !== undefined) return `"${word}" in "${text}" is no unit of time here: write ${meant}`;
  if (word !== undefined) return `"${word}" in "${text}" is no unit of time: there are ns, us, ms, s, min, h and d`;
  return `"${text}" is not a duration`;
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
