import { InvalidArgumentError } from 'commander';

/** Reads an option that is a whole number, within limits. */
export function wholeNumber(least: number, most: number): (text: string) => number {
  return (text) => {
    const value = Number(text);
    if (!/^\d+$/.test(text) || value < least || value > most) throw new InvalidArgumentError(`a whole number from ${least} to ${most} is needed.`);
    return value;
  };
}

/** Reads an option that is a number above 0. */
export function positiveNumber(text: string): number {
  const value = Number(text);
  if (text.trim() === '' || !(value > 0) || !Number.isFinite(value)) throw new InvalidArgumentError('a number above 0 is needed.');
  return value;
}
