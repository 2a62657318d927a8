/** How numbers are written for people, in screens, messages and reports. Typographic minus, no exponent where a plain figure will do. */

/** A quantity smaller than this is what rounding left of zero: no unit of the trade makes it anything else. */
const dust = 1e-30;

/**
 * A number with at most so many digits that matter.
 * @param digits 5 unless said
 * @returns "—" for a missing value, "∞" for one without bound
 */
export function figure(value: number, digits = 5): string {
  if (Number.isNaN(value)) return '—';
  const sign = value < -dust ? '−' : '';
  return `${sign}${sizeOf(Math.abs(value), digits)}`;
}

/** Several numbers with as many digits as it takes to tell them apart, as beside the lines of a scale. */
export function figures(values: readonly number[]): string[] {
  const different = new Set(values).size;
  for (let digits = 5; digits < 17; digits += 1) {
    const words = values.map((value) => figure(value, digits));
    if (new Set(words).size === different) return words;
  }
  return values.map(String);
}

/** A number with its sign and at most four digits that matter: +0.021, −0.4; zero has none. */
export function signedFigure(value: number): string {
  return value > dust ? `+${figure(value, 4)}` : figure(value, 4);
}

function sizeOf(size: number, digits: number): string {
  if (size === Number.POSITIVE_INFINITY) return '∞';
  if (size < dust) return '0';
  const rounded = Number(size.toPrecision(digits));
  if (rounded < 1e-3 || rounded >= 1e7) return rounded.toExponential().replace('e+', 'e').replace('e-', 'e−');
  return String(rounded);
}

/**
 * A share in percent, with two digits that matter; what is too small to matter says so, because 0 % would say that there is nothing, and 100 % that there is nothing else.
 * @param share 1 is 100 %
 */
export function percent(share: number): string {
  const value = 100 * share;
  if (value !== 0 && Math.abs(value) < 1e-4) return 'less than 0.0001 %';
  if (value < 100 && value >= 99.95) return 'more than 99.9 %';
  return `${figure(value, Math.abs(value) >= 10 ? 3 : 2)} %`;
}

/** A count with its noun: 1 requirement, 2 requirements, 2 boxes. */
export function plural(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}

/** A text as a sentence: one full stop at its end, whatever stood there. */
export function sentenceOf(text: string): string {
  return /[.!?…]$/.test(text.trim()) ? text.trim() : `${text.trim()}.`;
}
