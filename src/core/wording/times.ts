import { figure } from './numbers';

/** From this on a time is told in minutes, hours and days (s). */
const longFrom = 600;

const units = [
  ['d', 86_400],
  ['h', 3_600],
  ['min', 60],
] as const;

/**
 * A time or an instant in words: `250 µs`, `84.2 s`, `5 h 12 min`, `1 d 0.25 s`. Exact to a thousandth of a second.
 * @param seconds any number; negative ones get a minus, missing ones "—"
 * @param span of the run or axis it belongs to: beside times of hours, 300 s is 5 min
 */
export function timeWords(seconds: number, span = 0): string {
  if (!Number.isFinite(seconds)) return `${figure(seconds)}${Number.isNaN(seconds) ? '' : ' s'}`;
  const size = Math.abs(seconds);
  const words =
    size < 0.9995e-3 ? shortWords(size) : size < (span >= longFrom ? 60 : longFrom) - 0.0005 ? `${Number(size.toFixed(3))} s` : longWords(size);
  return seconds < 0 && words !== '0 s' ? `−${words}` : words;
}

/** Below a millisecond, where a nanosecond is the smallest time that can be written. */
function shortWords(size: number, digits = 4): string {
  if (size < 0.5e-9) return '0 s';
  return size < 0.9995e-6 ? `${figure(size * 1e9, digits)} ns` : `${figure(size * 1e6, digits)} µs`;
}

function longWords(size: number): string {
  let left = Math.round(size * 1e3);
  const parts = units.flatMap(([unit, length]) => {
    const count = Math.floor(left / (length * 1e3));
    left -= count * length * 1e3;
    return count > 0 ? [`${count} ${unit}`] : [];
  });
  return [...parts, ...(left > 0 ? [`${left / 1e3} s`] : [])].join(' ');
}

/** Steps between the marks of an axis of time (s) that people count in. */
const steps = [1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 900, 1_800, 3_600, 7_200, 10_800, 21_600, 43_200, 86_400, 172_800, 432_000, 864_000];

/** A mark on an axis of time. */
export interface TimeTick {
  /** Seconds. */
  readonly at: number;
  readonly label: string;
}

/**
 * Marks of an axis of time, at round instants: whole hours where hours are seen, tenths of a second where it is zoomed in.
 * @param most marks there is room for
 */
export function timeTicks(from: number, until: number, most: number): TimeTick[] {
  const least = (until - from) / Math.max(1, most);
  if (!(least > 0) || !Number.isFinite(least)) return [];
  const step = stepFrom(least);
  const first = Math.ceil(from / step - 1e-9);
  const count = Math.max(0, Math.floor(until / step + 1e-9) - first + 1);
  return Array.from({ length: Math.min(count, 4 * most + 4) }, (_, index) => {
    const at = Number(((first + index) * step).toPrecision(15));
    return { at, label: tickWords(at, step) };
  });
}

/** The least step of a round length that is no shorter. */
function stepFrom(least: number): number {
  const known = least < 1 ? undefined : steps.find((one) => one >= least * (1 - 1e-9));
  if (known !== undefined) return known;
  const power = 10 ** Math.floor(Math.log10(least));
  return power * ([1, 2, 5, 10].find((one) => one * power >= least * (1 - 1e-9)) ?? 10);
}

/** Exact however far the axis is zoomed in: two marks never read alike. */
function tickWords(at: number, step: number): string {
  if (step >= 1e-3) return timeWords(at, step >= 60 ? longFrom : 0);
  if (at < 0) {
    const words = tickWords(-at, step);
    return words.includes('+') ? `−(${words})` : `−${words}`;
  }
  const whole = Math.floor(at * 1e3 + 1e-6) / 1e3;
  const rest = at - whole;
  if (rest < step / 2) return timeWords(whole);
  const digits = Math.max(4, Math.ceil(Math.log10(rest / step)) + 2);
  return `${whole === 0 ? '' : `${timeWords(whole)} + `}${shortWords(rest, digits)}`;
}
