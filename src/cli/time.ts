import { readDuration } from '@/core/language';

/** A time of the command line in seconds: with a unit (`30min`, `1.5 h`) or a plain number of seconds. @throws Error that names the flag */
export function secondsOf(flag: string, text: string): number {
  const plain = Number(text);
  if (text.trim() !== '' && Number.isFinite(plain)) return plain;
  const nanoseconds = readDuration(text);
  if (typeof nanoseconds === 'string') throw new Error(`${flag}: ${nanoseconds}`);
  return nanoseconds / 1e9;
}
