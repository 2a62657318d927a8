import type { Signal } from './pieces';

/**
 * The mean of a signal over a window around each instant (shorter at both ends): ripple shorter than the window goes. It is exact at every row moved by half a window
 * to either side, where the mean can bend, and at a sixteenth of the window from instant to instant where it curves; between these it is taken as straight.
 * @param window s
 * @returns the signal itself where a value is missing or there are no two rows
 */
export function averaged(signal: Signal, window: number, from: number, until: number): Signal {
  const { time, data } = signal;
  if (!(window > 0) || time.length < 2 || data.some(Number.isNaN)) return signal;
  const half = window / 2;
  const straight = signal.held ? [from + half, until - half] : [until, from];
  const instants = finer(bendsOf(time, half, from, until), window / curvedParts, straight as [number, number]);
  const integral = integrator(signal, until);
  const [low, high] = [Math.max(from, time[0] as number), signal.held ? until : Math.min(until, time.at(-1) as number)];
  const values = instants.map((t) => {
    const begin = Math.max(low, t - half);
    const end = Math.min(high, t + half);
    return end > begin ? (integral(end) - integral(begin)) / (end - begin) : Number.NaN;
  });
  return { time: instants, data: values, held: false };
}

/** Parts of a window in which a mean that curves is followed. */
const curvedParts = 16;

/** Instants with more between them, no further apart than `step` but for a stretch in which the mean runs straight. */
function finer(instants: Float64Array, step: number, [begin, end]: readonly [number, number]): Float64Array {
  const isCurved = (from: number, until: number): boolean => from < begin || until > end;
  const found: number[] = [];
  for (let i = 0; i + 1 < instants.length; i += 1) {
    const [from, until] = [instants[i] as number, instants[i + 1] as number];
    const parts = isCurved(from, until) ? Math.ceil((until - from) / step) : 1;
    for (let part = 0; part < parts; part += 1) found.push(from + ((until - from) * part) / parts);
  }
  found.push(instants.at(-1) as number);
  return Float64Array.from(found);
}

/** Every row and every row moved by half a window, in order, without doubles. */
function bendsOf(time: Float64Array, half: number, from: number, until: number): Float64Array {
  const found = new Float64Array(3 * time.length + 2);
  const at = [0, 0, 0];
  found[0] = from;
  let count = 1;
  for (;;) {
    let next = Number.POSITIVE_INFINITY;
    for (let k = 0; k < 3; k += 1) next = Math.min(next, (time[at[k] as number] ?? Number.POSITIVE_INFINITY) + (k - 1) * half);
    if (!(next < until)) break;
    for (let k = 0; k < 3; k += 1) if ((time[at[k] as number] as number) + (k - 1) * half === next) at[k] = (at[k] as number) + 1;
    if (next > (found[count - 1] as number)) {
      found[count] = next;
      count += 1;
    }
  }
  found[count] = until;
  return found.slice(0, count + 1);
}

/** The integral from the first row on, as a function of time; exact for held and for straight signals. */
function integrator({ time, data, held }: Signal, until: number): (t: number) => number {
  const mean = (data[0] as number) || 0;
  const sums = new Float64Array(time.length);
  for (let i = 1; i < time.length; i += 1) {
    const [a, b] = [data[i - 1] as number, held ? (data[i - 1] as number) : (data[i] as number)];
    sums[i] = (sums[i - 1] as number) + ((time[i] as number) - (time[i - 1] as number)) * ((a + b) / 2 - mean);
  }
  let row = 0;
  return (t) => {
    // Asked for at ascending instants, but for half a window back.
    while (row > 0 && (time[row] as number) > t) row -= 1;
    while (row + 1 < time.length && (time[row + 1] as number) <= t) row += 1;
    const begun = time[row] as number;
    const gone = Math.min(t, until) - begun;
    const value = data[row] as number;
    const next = row + 1 < time.length && !held ? (data[row + 1] as number) : value;
    const slope = row + 1 < time.length && gone > 0 ? (next - value) / ((time[row + 1] as number) - begun) : 0;
    return (sums[row] as number) + gone * (value - mean + (slope * gone) / 2) + mean * (t - (time[0] as number));
  };
}

/** Angles without their jumps from one turn to the next. @param turn a full turn in the signal's unit */
export function unwrapped(signal: Signal, turn: number): Signal {
  let turns = 0;
  const data = signal.data.map((value, index) => {
    const step = index === 0 ? 0 : value - (signal.data[index - 1] as number);
    if (!Number.isNaN(step)) turns -= Math.round(step / turn);
    return value + turns * turn;
  });
  return { ...signal, data };
}
