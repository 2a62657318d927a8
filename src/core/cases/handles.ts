import { printDuration, readDuration } from '@/core/language';
import type { RawPiece, Scalar } from '@/core/shapes';

/** A point of a course that can be taken hold of and moved. */
export interface Handle {
  /** Index of its piece. */
  readonly piece: number;
  /** Which point of the piece: its begin is 0, its end 1; of a table the index of the point. */
  readonly point: number;
  readonly seconds: number;
  readonly value: number;
  readonly movesTime: boolean;
  readonly movesValue: boolean;
  /** Where it may be moved along time: between its neighbours. */
  readonly room: readonly [from: number, until: number];
}

type Spot = Omit<Handle, 'room'>;

/** The points of a course that can be moved, in order of time. A piece with a time or a value that cannot be read has none. @param stop when the case ends (s) */
export function handlesOf(pieces: readonly RawPiece[], stop: number): Handle[] {
  let value = 0;
  const spots = pieces.flatMap((piece, index) => {
    const own = spotsOf(piece, index, value);
    value = valueAfter(piece, value);
    return own;
  });
  return spots.map((spot, index) => ({ ...spot, room: [spots[index - 1]?.seconds ?? 0, spots[index + 1]?.seconds ?? stop] }));
}

function spotsOf(raw: RawPiece, piece: number, before: number): Spot[] {
  const spot = (point: number, seconds: number | undefined, value: number | undefined, movesTime: boolean, movesValue: boolean): Spot[] =>
    seconds === undefined || value === undefined ? [] : [{ piece, point, seconds, value, movesTime, movesValue }];
  if ('hold' in raw) return spot(0, 0, numberOf(raw.hold), false, true);
  if ('step' in raw) return spot(0, secondsOf(raw.at), numberOf(raw.step), true, true);
  if ('ramp' in raw) return [...spot(0, secondsOf(raw.from), before, true, false), ...spot(1, secondsOf(raw.until), numberOf(raw.ramp), true, true)];
  if ('pulse' in raw) {
    const [at, width, value] = [secondsOf(raw.at), secondsOf(raw.width), numberOf(raw.pulse)];
    const end = at === undefined || width === undefined ? undefined : at + width;
    return [...spot(0, at, value, true, true), ...(raw.period === undefined ? spot(1, end, value, true, false) : [])];
  }
  if ('table' in raw) return raw.table.flatMap(([at, value], index) => spot(index, secondsOf(at), numberOf(value), true, true));
  if ('recording' in raw) return raw.from === undefined ? [] : spot(0, secondsOf(raw.from), before, true, false);
  return [...spot(0, secondsOf(raw.from), before, true, false), ...spot(1, secondsOf(raw.until), before, true, false)];
}

function valueAfter(raw: RawPiece, before: number): number {
  if ('hold' in raw) return numberOf(raw.hold) ?? before;
  if ('step' in raw) return numberOf(raw.step) ?? before;
  if ('ramp' in raw) return numberOf(raw.ramp) ?? before;
  if ('table' in raw) return numberOf(raw.table.at(-1)?.[1] ?? before) ?? before;
  return before;
}

/** A course with its values written otherwise: those of an enumeration as numbers, or as names. */
export function withValues(pieces: readonly RawPiece[], written: (value: Scalar) => Scalar): RawPiece[] {
  return pieces.map((raw): RawPiece => {
    if ('hold' in raw) return { ...raw, hold: written(raw.hold) };
    if ('step' in raw) return { ...raw, step: written(raw.step) };
    if ('pulse' in raw) return { ...raw, pulse: written(raw.pulse) };
    if ('table' in raw) return { ...raw, table: raw.table.map(([at, value]) => [at, written(value)] as const) };
    return raw;
  });
}

/** A course with one of its points moved; it stays between its neighbours. */
export function withMoved(pieces: readonly RawPiece[], handle: Handle, to: { readonly seconds: number; readonly value: number }): RawPiece[] {
  const [from, until] = handle.room;
  const seconds = handle.movesTime ? Math.max(from, Math.min(until, to.seconds)) : handle.seconds;
  const value = handle.movesValue ? to.value : handle.value;
  return pieces.map((piece, index) => (index === handle.piece ? movedPiece(piece, handle.point, seconds, value) : piece));
}

function movedPiece(raw: RawPiece, point: number, seconds: number, value: number): RawPiece {
  const time = timeText(seconds);
  if ('hold' in raw) return { ...raw, hold: alike(raw.hold, value) };
  if ('step' in raw) return { ...raw, step: alike(raw.step, value), at: time };
  if ('ramp' in raw) return point === 0 ? { ...raw, from: time } : { ...raw, ramp: alike(raw.ramp, value), until: time };
  if ('pulse' in raw) {
    const at = secondsOf(raw.at) ?? 0;
    return point === 0 ? { ...raw, pulse: alike(raw.pulse, value), at: time } : { ...raw, width: timeText(seconds - at) };
  }
  if ('table' in raw) return { ...raw, table: raw.table.map((one, index) => (index === point ? ([time, alike(one[1], value)] as const) : one)) };
  if ('recording' in raw) return { ...raw, from: time };
  return point === 0 ? { ...raw, from: time } : { ...raw, until: time };
}

/**
 * A course with a step at an instant: behind what comes before it, in front of what comes after. Inside a piece that goes on for some time there is no room for one.
 * @param start the value the input begins with where it has no course yet
 * @returns nothing where there is no room
 */
export function withStep(pieces: readonly RawPiece[], seconds: number, value: Scalar, start: Scalar): RawPiece[] | undefined {
  const begun: readonly RawPiece[] = pieces.length > 0 ? pieces : [{ hold: start }];
  const spans = begun.map(spanOf);
  if (spans.some((span) => span === undefined || (span[0] < seconds && seconds < span[1]))) return undefined;
  const after = spans.filter((span) => span && span[1] <= seconds).length;
  return [...begun.slice(0, after), { step: value, at: timeText(seconds) }, ...begun.slice(after)];
}

/** From when to when a piece acts (s). */
function spanOf(raw: RawPiece): readonly [number, number] | undefined {
  const spots = spotsOf(raw, 0, 0);
  if ('pulse' in raw && raw.period !== undefined) {
    const [at, period, width] = [secondsOf(raw.at), secondsOf(raw.period), secondsOf(raw.width)];
    return at === undefined || period === undefined || width === undefined ? undefined : [at, at + ((raw.count ?? 1) - 1) * period + width];
  }
  if ('recording' in raw) return [spots[0]?.seconds ?? 0, Number.POSITIVE_INFINITY];
  const [first, last] = [spots[0], spots.at(-1)];
  return first && last ? [first.seconds, last.seconds] : undefined;
}

/** A course without one of its pieces; of a table without one of its points as long as others are left. */
export function withoutPiece(pieces: readonly RawPiece[], { piece, point }: Pick<Handle, 'piece' | 'point'>): RawPiece[] {
  return pieces.flatMap((raw, index): RawPiece[] => {
    if (index !== piece) return [raw];
    return 'table' in raw && raw.table.length > 1 ? [{ ...raw, table: raw.table.filter((_, at) => at !== point) }] : [];
  });
}

function secondsOf(time: string | number): number | undefined {
  if (typeof time === 'number') return time;
  const ns = readDuration(time);
  return typeof ns === 'number' ? ns / 1e9 : undefined;
}

/** As a person would write it. @param seconds to the nanosecond */
function timeText(seconds: number): string {
  return printDuration(Math.round(seconds * 1e9));
}

function numberOf(value: Scalar): number | undefined {
  if (typeof value === 'boolean') return Number(value);
  return typeof value === 'number' ? value : undefined;
}

/** A number as a value of the same kind as another. */
function alike(other: Scalar, value: number): Scalar {
  return typeof other === 'boolean' ? value >= 0.5 : value;
}
