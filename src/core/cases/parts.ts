import { nameKey, printDuration, readDuration } from '@/core/language';
import type { RawCase, RawPiece, Scalar } from '@/core/shapes';

/** Something a stimulus is made of that may vary: `request_up.width`, or `request_up.2.at` where several pieces have one. */
export interface StimulusPart {
  readonly name: string;
  /** The input, as the case calls it. */
  readonly input: string;
  readonly piece: number;
  readonly key: string;
  /** A time, in seconds; else a value of the input. */
  readonly isTime: boolean;
  readonly value: number;
}

const times: ReadonlySet<string> = new Set(['at', 'from', 'until', 'width', 'period', 'shift', 'every']);
const values: ReadonlySet<string> = new Set(['hold', 'step', 'ramp', 'pulse', 'sine', 'chirp', 'walk']);

/** All that may vary in the stimuli of a case: times, and values that are numbers. */
export function stimulusParts({ stimuli = {} }: Pick<RawCase, 'stimuli'>): StimulusPart[] {
  return Object.entries(stimuli).flatMap(([input, pieces]) => {
    const found = pieces.flatMap((raw, piece) => Object.entries(raw).flatMap(([key, value]) => partOf(input, piece, key, value)));
    const isAlone = (one: StimulusPart): boolean => found.filter((other) => other.key === one.key).length === 1;
    return found.map((one) => ({ ...one, name: isAlone(one) ? `${input}.${one.key}` : `${input}.${one.piece + 1}.${one.key}` }));
  });
}

function partOf(input: string, piece: number, key: string, value: unknown): StimulusPart[] {
  if (times.has(key) && (typeof value === 'string' || typeof value === 'number')) {
    const ns = typeof value === 'number' ? value * 1e9 : readDuration(value);
    return typeof ns === 'number' ? [{ name: '', input, piece, key, isTime: true, value: ns / 1e9 }] : [];
  }
  return values.has(key) && typeof value === 'number' ? [{ name: '', input, piece, key, isTime: false, value }] : [];
}

/** The part of that name, without regard to case. */
export function stimulusPart(raw: Pick<RawCase, 'stimuli'>, name: string): StimulusPart | undefined {
  return stimulusParts(raw).find((one) => nameKey(one.name) === nameKey(name));
}

/** The stimuli with some of their parts changed. @param changes parts with their new values: times as numbers of seconds or as durations */
export function withParts(
  { stimuli = {} }: Pick<RawCase, 'stimuli'>,
  changes: readonly (readonly [StimulusPart, Scalar])[],
): Readonly<Record<string, readonly RawPiece[]>> {
  const changed: Record<string, readonly RawPiece[]> = { ...stimuli };
  for (const [{ input, piece, key, isTime }, value] of changes) {
    const written = isTime && typeof value === 'number' ? printDuration(Math.round(value * 1e9)) : value;
    changed[input] = (changed[input] ?? []).map((raw, index) => (index === piece ? ({ ...raw, [key]: written } as RawPiece) : raw));
  }
  return changed;
}
