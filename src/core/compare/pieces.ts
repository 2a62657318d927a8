import type { Column, Trace } from '@/core/trace';

/** A signal as a piecewise function of time: rows in ascending time, of two at one instant the values before and after a jump. */
export interface Signal {
  readonly time: Float64Array;
  readonly data: Float64Array;
  /** Each value holds until the next row; otherwise the rows are joined. A held signal goes on behind its last row, a straight one ends there. */
  readonly held: boolean;
}

export function signalOf(column: Column, trace: Trace): Signal {
  return { time: trace.bases[column.base] ?? new Float64Array(), data: column.data, held: column.between === 'held' };
}

/** Stretches handed over at once: numbers in columns, because calls with numbers cost more than what is done with them. */
const atOnce = 1024;

/**
 * Walks two signals over the union of their rows in [from, until], both sides of every jump included. Each stretch k of what `next` has filled runs straight in both:
 * from `t0[k]` (values `a0[k]`, `b0[k]` right after any jump there) to `t1[k]` (values `a1[k]`, `b1[k]` right before any jump there). The very last stretch
 * has no length and holds the values of the last instant. A missing value is NaN.
 */
export class Pieces {
  readonly t0 = new Float64Array(atOnce);
  readonly t1 = new Float64Array(atOnce);
  readonly a0 = new Float64Array(atOnce);
  readonly a1 = new Float64Array(atOnce);
  readonly b0 = new Float64Array(atOnce);
  readonly b1 = new Float64Array(atOnce);
  private i: number;
  private j: number;
  private t: number;
  private isOver = false;

  constructor(
    private readonly one: Signal,
    private readonly other: Signal,
    from: number,
    private readonly until: number,
  ) {
    this.i = lastAt(one.time, from);
    this.j = lastAt(other.time, from);
    this.t = from;
  }

  /** Fills the columns anew. @returns how many stretches there are; 0 at the end */
  next(): number {
    const { t0, t1, a0, a1, b0, b1, until } = this;
    const { time: ta, data: va, held: heldA } = this.one;
    const { time: tb, data: vb, held: heldB } = this.other;
    const [lastA, lastB] = [ta.length - 1, tb.length - 1];
    let { i, j, t } = this;
    let count = 0;
    // Written out for both signals: this is the innermost loop of every comparison.
    for (; t < until && count < atOnce; count += 1) {
      let end = until;
      if (i < lastA && (ta[i + 1] as number) < end) end = ta[i + 1] as number;
      if (j < lastB && (tb[j + 1] as number) < end) end = tb[j + 1] as number;
      t0[count] = t;
      t1[count] = end;
      if (heldA || i < 0 || i >= lastA) {
        a0[count] = valueIn(ta, va, heldA, i, t);
        a1[count] = heldA && i >= 0 ? (va[i] as number) : Number.NaN;
      } else {
        const begun = ta[i] as number;
        const value = va[i] as number;
        const next = ta[i + 1] as number;
        const after = va[i + 1] as number;
        if (t === begun && end === next) {
          a0[count] = value;
          a1[count] = after;
        } else {
          const slope = (after - value) / (next - begun);
          a0[count] = t === begun ? value : value + (t - begun) * slope;
          a1[count] = end === next ? after : value + (end - begun) * slope;
        }
      }
      if (heldB || j < 0 || j >= lastB) {
        b0[count] = valueIn(tb, vb, heldB, j, t);
        b1[count] = heldB && j >= 0 ? (vb[j] as number) : Number.NaN;
      } else {
        const begun = tb[j] as number;
        const value = vb[j] as number;
        const next = tb[j + 1] as number;
        const after = vb[j + 1] as number;
        if (t === begun && end === next) {
          b0[count] = value;
          b1[count] = after;
        } else {
          const slope = (after - value) / (next - begun);
          b0[count] = t === begun ? value : value + (t - begun) * slope;
          b1[count] = end === next ? after : value + (end - begun) * slope;
        }
      }
      while (i < lastA && (ta[i + 1] as number) <= end) i += 1;
      while (j < lastB && (tb[j + 1] as number) <= end) j += 1;
      t = end;
    }
    this.i = i;
    this.j = j;
    this.t = t;
    return count < atOnce && !this.isOver ? this.last(count) : count;
  }

  /** The last instant as a stretch without length, in column `k`. @returns how many stretches there are with it */
  private last(k: number): number {
    const { until, one, other } = this;
    this.t0[k] = until;
    this.t1[k] = until;
    this.a0[k] = this.a1[k] = valueIn(one.time, one.data, one.held, this.i, until);
    this.b0[k] = this.b1[k] = valueIn(other.time, other.data, other.held, this.j, until);
    this.isOver = true;
    return k + 1;
  }
}

/** Value at `t`, which lies at or after row `i` and before the next. */
function valueIn(time: Float64Array, data: Float64Array, held: boolean, i: number, t: number): number {
  if (i < 0) return Number.NaN;
  const begun = time[i] as number;
  if (held || t === begun) return data[i] as number;
  if (i + 1 >= time.length) return Number.NaN;
  const value = data[i] as number;
  return value + (t - begun) * (((data[i + 1] as number) - value) / ((time[i + 1] as number) - begun));
}

/** The value a signal has at an instant, after any jump there; NaN before its rows and, where it runs straight, after them. */
export function valueAt(signal: Signal, t: number): number {
  return valueIn(signal.time, signal.data, signal.held, lastAt(signal.time, t), t);
}

/** The same signal later by so many seconds. */
export function shifted(signal: Signal, seconds: number): Signal {
  return { ...signal, time: signal.time.map((t) => t + seconds) };
}

/** Index of the last row at or before `t`; −1 when there is none. */
export function lastAt(time: Float64Array, t: number): number {
  let [low, high] = [-1, time.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if ((time[middle] as number) <= t) low = middle;
    else high = middle - 1;
  }
  return low;
}
